import type { Page } from '@playwright/test'
import { demoTests, keep, like, type DemoTests } from './demoTests'
import { enter, expect, makeReady, open, test } from './person'

/* Each kind of test from Ready over its run on the simulated rig to a reduction that is kept, in the browser alone. */

let tests: DemoTests
test.beforeAll(async ({ request }) => {
  test.setTimeout(300_000)
  tests = await demoTests(request)
})

/** A demo test of each kind, what of it stands on the console while it runs, and what its kept results tell. */
const KINDS: { title: string; figure?: string; result: string; ask?: [label: string, value: string] }[] = [
  { title: 'New strop 1', result: 'peakForce' },
  { title: 'Bag 1 to burst', result: 'burstPressure' },
  { title: 'Pressed until it buckles', result: 'peakForce' },
  { title: 'Six in tension', result: 'strengthMean' },
  { title: 'Tube 1, slow', figure: 'meanForce', result: 'meanForce' },
  { title: 'Drop 1 from 1.1 m', figure: 'deltaV', result: 'plateau' },
  { title: 'Drop 1, small vent', figure: 'descentRate', result: 'descentRate' },
  { title: 'Bench: stock and wide bowl', figure: 'flow', result: 'meanFlow' },
  { title: 'Set-points up to 90 %', figure: 'maxThrust', result: 'maxThrust' },
  { title: 'Full power, lid vented: ten minutes', figure: 'steadyTemperature', result: 'steadyTemperature' },
  { title: 'Survey before the shake', figure: 'firstFrequency', result: 'firstFrequency' },
  { title: 'Cylinder 1', figure: 'equilibrium', result: 'equilibrium' },
  { title: 'Element, bare', figure: 'resonance', result: 'seriesFrequency' },
  { title: 'Beam at 40 kHz', figure: 'down', result: 'beamwidth3dB' },
  { title: 'Shaft S2 to break', result: 'ultimateTorque' },
]

/** Starts the ladder at the fastest pace that the page offers. */
async function begin(page: Page, id: number): Promise<void> {
  await open(page, `/tests/${id}/run`)
  const start = page.getByRole('region', { name: 'Start a run' })
  await start.getByLabel('Pace').selectOption('20')
  await page.getByRole('button', { name: 'Start the ladder' }).click()
}

/** To the end of its ladder: says go where it waits, and goes on where a rule held it. */
async function toTheEnd(page: Page): Promise<void> {
  const over = page.getByRole('heading', { name: 'Recorded', exact: true })
  await expect(async () => {
    if (await page.getByRole('status').filter({ hasText: 'LOOK' }).isVisible()) await page.keyboard.press('g')
    if (await page.getByRole('status').filter({ hasText: 'HELD' }).isVisible()) {
      await page.getByRole('button', { name: /^Go on/ }).click()
      await page.getByRole('dialog').getByRole('button', { name: 'Go on' }).click()
    }
    await expect(over).toBeVisible({ timeout: 1000 })
  }).toPass({ timeout: 240_000 })
}

for (const { title, figure, result, ask } of KINDS)
  test(`${title}: run, reduced and kept`, async ({ person: page }) => {
    test.setTimeout(300_000)
    const id = await like(page, tests, title, { waitsAtItsEnd: figure !== undefined })
    await begin(page, id)
    // The ladder waits for a go before it is over: the figures are still there for a machine that is slow.
    if (figure)
      await expect(page.locator(`[data-figure="${figure}"] dd`).first()).toHaveText(/\d/, { timeout: 120_000 })
    await toTheEnd(page)
    await page.getByRole('link', { name: 'To the reduction' }).click()
    if (ask) await enter(page, ask[0], ask[1])
    await expect(page.locator(`[data-result="${result}"]`)).toContainText(/\d/)
    await keep(page)
    await expect(page.getByText(/Kept .* by Ada/)).toBeVisible()
  })

test('two heights in one run: each drop is reduced by itself, a third there is not', async ({ person: page }) => {
  const found = tests.of('Drop 1 from 1.1 m')
  interface Rung {
    target: { value: number; unit: string }
  }
  const { plan } = ((await (await page.request.get(`/api/tests/${found.id}`)).json()) as { test: { plan: object } })
    .test
  const [zero, high, down] = (plan as { rungs: Rung[] }).rungs as [Rung, Rung, Rung]
  const low = { ...high, target: { ...high.target, value: high.target.value / 2 } }
  const made = await page.request.post(`/api/revisions/${found.revisionId}/tests`, {
    data: { title: 'Two heights', plan: { ...plan, rungs: [zero, low, high, down] } },
  })
  const { id } = (await made.json()) as { id: number }
  await makeReady(id)
  await begin(page, id)
  await toTheEnd(page)
  await page.getByRole('link', { name: 'To the reduction' }).click()
  const velocity = page.locator('[data-result="deltaV"]')
  await expect(page.getByText('The record holds 2 drops; this is number 2.')).toBeVisible()
  await expect(velocity).toContainText(/5\.\d/)
  await enter(page, 'Drop of the run (optional)', '1')
  await expect(page.getByText('The record holds 2 drops; this is number 1.')).toBeVisible()
  await expect(velocity).toContainText(/3\.\d/)
  await enter(page, 'Drop of the run (optional)', '3')
  await expect(page.getByText('This record holds 2 drops: give 1 to 2.').first()).toBeVisible()
  await enter(page, 'Drop of the run (optional)', '1')
  await keep(page)
  await expect(page.getByText(/Kept .* by Ada/)).toBeVisible()
})
