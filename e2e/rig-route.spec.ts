import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { answerLessons, expect, makeReady, open, releasePlan, sign, test } from './person'

test('the demo’s next revision climbs the ladder on the simulated rig', async ({ person: page, baseURL }) => {
  const slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'), { specimens: false })

  await test.step('the campaign says what stands and why', async () => {
    await open(page, `/campaigns/${slug}`)
    await expect(page.getByText('The value lies below the limit, but its uncertainty reaches across it.')).toBeVisible()
    await expect(page.locator('[data-verdict="fail"]')).toHaveCount(1)
    await page.getByRole('link', { name: /choose the next revision/ }).click()
    await page.locator('[data-candidate="caps-webs"]').getByRole('button', { name: 'Accept' }).click()
    await page.getByRole('button', { name: 'Make revision C' }).click()
    await page.getByRole('tab', { name: /^Prediction/ }).click()
    await expect(page.getByRole('columnheader', { name: 'scaled from revision B' })).toBeVisible()
    await releasePlan(page)
  })

  await test.step('ready, with the keys', async () => {
    await page.keyboard.press('2')
    await expect(page).toHaveURL(/\/ready$/)
    await expect(page.getByRole('heading', { name: /still open/ })).toBeVisible()
    await answerLessons(page)
    await makeReady(Number(/tests\/(\d+)/.exec(page.url())![1]))
    await page.reload()
    await page.getByRole('link', { name: 'To the run' }).click()
  })

  await test.step('run: call out, hold, go on, to the end of the ladder', async () => {
    await page.getByRole('region', { name: 'Start a run' }).getByLabel('Pace').selectOption('20')
    await page.getByRole('button', { name: 'Start the ladder' }).click()
    await expect(page.getByText('Loading', { exact: true })).toBeVisible()
    await expect(page.getByTestId('load')).toHaveText(/[1-9]/, { timeout: 20_000 })
    await page.keyboard.press('c')
    // Words may hold every letter that is a key of the console elsewhere.
    await page.keyboard.type('skin marks: hold, stop, x')
    await page.keyboard.press('Enter')
    await expect(page.getByText('call-out: skin marks: hold, stop, x')).toBeVisible()
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeHidden()
    await page.keyboard.press('h')
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeVisible()
    // What is held stays held through a reload; going on wants a word, aborting would not.
    await page.reload()
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeVisible()
    await page.getByRole('button', { name: /^Go on/ }).click()
    await page.getByRole('dialog').getByRole('button', { name: 'Go on' }).click()
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeHidden()
    await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toBeVisible({ timeout: 90_000 })
    await expect(page.getByRole('cell', { name: 'ladder done' })).toBeVisible()
    await expect(page.getByText('Ada', { exact: true }).first()).toBeVisible()
  })

  await test.step('reduce, judge against the locked prediction', async () => {
    await page.getByRole('link', { name: 'To the reduction' }).click()
    await page.getByRole('button', { name: 'Keep results' }).click()
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    const service = page.locator('[data-limit="Service deflection"]')
    await expect(service.getByText(/scaled from revision B: 7\d\.\d ±\s\d\.\d\smm\s+measured/)).toBeVisible()
    await expect(service.getByText(/beam calculation/)).toBeVisible()
    await sign(page)
    await page.keyboard.press('1')
    await page.getByRole('tab', { name: /^Prediction/ }).click()
    await expect(page.getByRole('heading', { name: 'Prediction · locked' })).toBeVisible()
    await page.getByRole('link', { name: 'Tarn carrier' }).click()
    await expect(page.getByRole('heading', { name: 'Revision C' })).toBeVisible()
  })

  await test.step('abort needs no question', async () => {
    await page.getByRole('link', { name: 'Ladder to ultimate load, new clamp' }).last().click()
    await expect(page.getByRole('link', { name: /^Change/ })).toHaveAttribute('aria-current', 'step')
    await page.keyboard.press('3')
    await page.getByRole('region', { name: 'Start a run' }).getByLabel('Pace').selectOption('20')
    await page.getByRole('button', { name: 'Start the ladder' }).click()
    await expect(page.getByText('Loading', { exact: true })).toBeVisible()
    await page.keyboard.press('x')
    await expect(page.getByRole('cell', { name: 'aborted' })).toBeVisible({ timeout: 20_000 })
  })
})

test(
  'the panel on its bladder: a go by name, a rule that holds, a shouted reading, an unplanned load, an abort ' +
    'with its reason',
  async ({ person: page, baseURL }) => {
    await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'), { specimens: false })
    const campaigns = (await (await page.request.get('/api/campaigns')).json()) as {
      articles: { name: string; revisions: { tests: { id: number }[] }[] }[]
    }[]
    const id = campaigns.at(-1)!.articles.find(a => a.name === 'Cargo floor panel')!.revisions[0]!.tests[0]!.id
    await open(page, `/tests/${id}/run`)
    // Rehearsed first: the mid-span gauge dies, somebody marks it, and the debrief says so. The record stays empty.
    const rehearsal = page.getByRole('region', { name: 'Rehearse' })
    await rehearsal.getByLabel('Pace').selectOption('20')
    await rehearsal.getByLabel('Surprise').selectOption('gauge-dies')
    await rehearsal.getByRole('combobox', { name: 'Channel', exact: true }).selectOption({ label: 'Mid-span' })
    await rehearsal.getByLabel('After, s').fill('40')
    await rehearsal.getByRole('button', { name: 'Rehearse' }).click()
    await expect(page.getByText(/^Rehearsal on the simulated rig/)).toBeVisible()
    await expect(page.getByText(/^Rung 3 of 9/)).toBeVisible({ timeout: 20_000 })
    await page.keyboard.press('m')
    await page.keyboard.press('x')
    await expect(page.locator('[data-debrief]')).toContainText(
      /Mid-span goes dead.*Ada, after \d+\.\d s \(mark\).*noticed/,
      { timeout: 20_000 },
    )
    await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toHaveCount(0)

    await page.getByRole('region', { name: 'Start a run' }).getByLabel('Pace').selectOption('20')
    await page.getByRole('button', { name: 'Start the ladder' }).click()
    await expect(page.getByRole('status').filter({ hasText: 'LOOK' })).toBeVisible({ timeout: 40_000 })
    await page.getByRole('button', { name: 'Call out' }).click()
    await page.getByLabel(/, if it was called$/).fill('8.2 mm')
    await page.getByRole('button', { name: 'Write it down' }).click()
    await expect(page.getByText('call-out: called-out reading')).toBeVisible()

    // Somebody else has taken the controls: going on is theirs, holding and aborting anybody's.
    const { runs } = (await (await page.request.get(`/api/tests/${id}`)).json()) as { runs: { id: number }[] }
    await page.request.post(`/api/runs/${runs[0]!.id}/command`, {
      data: { command: 'take' },
      headers: { 'x-hypomet-person': 'Bo' },
    })
    await expect(page.getByTestId('controller')).toHaveText('Bo')
    await page.keyboard.press('g')
    await expect(page.getByRole('alert')).toContainText('Bo has the controls')
    await page.getByRole('button', { name: 'Take the controls' }).click()
    await page.keyboard.press('g')
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeVisible({ timeout: 30_000 })
    await expect(page.getByText(/watch: Mid-span reads 11\.\d\smm, beyond 11\.0\smm: ladder held/)).toBeVisible()

    await page.getByRole('button', { name: 'Unplanned load …' }).click()
    await page.getByLabel('How much').fill('120 N')
    await page.getByLabel('What was put on, and by whose word').fill('A crate set on the panel')
    await page.getByRole('dialog').getByRole('button', { name: 'Write it down' }).click()
    await expect(page.getByText('deviation: A crate set on the panel')).toBeVisible()
    await page.keyboard.press('x')
    await expect(page.getByRole('cell', { name: 'aborted', exact: true })).toBeVisible({ timeout: 20_000 })
  },
)
