import { createServer, type Socket } from 'node:net'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { loadDemo } from '../demo/load'
import { expect, makeReady, open, test } from './person'

interface Campaign {
  slug: string
  articles: { name: string; revisions: { tests: { id: number; title: string }[] }[] }[]
}

/** The demo at hand, and what has been run of it: each test is run once. */
let demo = ''
const ranOf = new Set<string>()

/** A test of the demo by its title, ready to run. */
async function readyTest(page: Page, baseURL: string, title: RegExp): Promise<number> {
  if (ranOf.size === 0 || ranOf.has(title.source)) {
    ranOf.clear()
    demo = await loadDemo(baseURL, join(import.meta.dirname, '../demo/data'), { specimens: false })
  }
  ranOf.add(title.source)
  const campaigns = (await (await page.request.get('/api/campaigns')).json()) as Campaign[]
  const { id } = campaigns
    .find(c => c.slug === demo)!
    .articles.flatMap(a => a.revisions.flatMap(r => r.tests))
    .find(t => title.test(t.title))!
  await makeReady(id)
  await open(page, `/tests/${id}/run`)
  return id
}

async function choose(page: Page, surprise: string, after: string, channel?: string): Promise<void> {
  const run = page.getByRole('region', { name: 'Start a run' })
  await run.getByLabel('Pace').selectOption('20')
  await run.getByLabel('Surprise').selectOption(surprise)
  if (channel) await run.getByRole('combobox', { name: 'Channel', exact: true }).selectOption({ label: channel })
  if (surprise !== 'none') await run.getByLabel('After, s').fill(after)
}

const phase = (page: Page, word: string) => page.getByRole('status').filter({ hasText: word })
const begin = (page: Page) => page.getByRole('button', { name: 'Start the ladder' }).click()

test('the hanger arm to its end: a twin gauge parts, the ladder is held, the browser is closed and comes back', async ({
  person: page,
  context,
  baseURL,
}) => {
  const id = await readyTest(page, baseURL!, /season’s carriage/)
  await choose(page, 'parts', '90', 'Root cap strain, twin')
  await begin(page)
  await page.getByRole('radio', { name: 'Strips' }).click()
  await expect(page.getByRole('img', { name: /Root cap strain, twin and Root cap strain/ })).toBeVisible()
  await expect(phase(page, 'HELD')).toBeVisible({ timeout: 30_000 })
  await expect(
    page.getByText(
      /watch: Root cap strain, twin and its redundant channel disagree by \d+\s*µε, more than 60\.0\s*µε: ladder held \(\d+\.\d ms after its sample\)/,
    ),
  ).toBeVisible()
  await page.keyboard.press('v')
  await expect(page.locator('[data-channel="strainTwin"]')).toContainText('disagrees with its redundant channel')

  // The browser goes; the run does not. Another one sees where it stands, from history alone.
  await page.goto('about:blank')
  const other = await context.newPage()
  await open(other, `/tests/${id}/run`)
  await expect(phase(other, 'HELD')).toBeVisible()
  await expect(other.getByTestId('recorder')).toContainText('up to date')
  await other.close()

  await open(page, `/tests/${id}/run`)
  // A key counts once the console has heard of the run.
  await expect(phase(page, 'HELD')).toBeVisible()
  await page.keyboard.press('h')
  await page.getByRole('dialog').getByRole('button', { name: 'Go on' }).click()
  // By four holds on there is a projection from the readings, with its band.
  await expect(page.getByText(/→ [\d.]+ ±\s*[\d.]+\s*mm by the readings so far/)).toBeVisible({ timeout: 30_000 })
  await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('cell', { name: 'ladder done' })).toBeVisible()
  await page.getByRole('link', { name: 'To the reduction' }).click()
  await expect(page.getByRole('button', { name: 'Keep results' })).toBeVisible()
})

test(
  'the ballast bag: rehearsed with a leak that the debrief tells of, aborted, stopped with a reason, then to ' +
    'its end by named goes',
  async ({ person: page, baseURL }) => {
    test.slow()
    await readyTest(page, baseURL!, /Steps to burst/)
    const rehearsal = page.getByRole('region', { name: 'Rehearse' })
    await rehearsal.getByLabel('Pace').selectOption('20')
    await rehearsal.getByLabel('Surprise').selectOption('leaks')
    await rehearsal.getByLabel('After, s').fill('45')
    await rehearsal.getByRole('button', { name: 'Rehearse' }).click()
    await expect(page.getByText(/^Rehearsal on the simulated rig/)).toBeVisible()
    // A leak of four thousandths a second at 25 kPa is a tenth of a kilopascal: too little for the rule, so somebody
    // must
    // see it.
    await expect(page.getByText(/^Rung 3 of 11/)).toBeVisible({ timeout: 30_000 })
    await page.keyboard.press('m')
    await page.keyboard.press('h')
    await page.keyboard.press('x')
    const debrief = page.locator('[data-debrief]')
    await expect(debrief).toContainText(
      /The rig leaks: the load falls in every hold, at 45\.0 s.*Ada, after \d+\.\d s \(mark\).*Ada, after \d+\.\d s.*noticed/,
      { timeout: 20_000 },
    )
    await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toHaveCount(0)

    await choose(page, 'none', '')
    await begin(page)
    await expect(phase(page, 'Loading')).toBeVisible({ timeout: 20_000 })
    await page.keyboard.press('x')
    await expect(page.getByRole('cell', { name: 'aborted', exact: true })).toBeVisible({ timeout: 20_000 })

    await choose(page, 'none', '')
    await begin(page)
    await expect(phase(page, 'Holding')).toBeVisible({ timeout: 20_000 })
    await page.keyboard.press('s')
    await page.getByLabel('Why, for the record').fill('Pump runs dry')
    await page.getByRole('button', { name: 'Stop and unload' }).click()
    await expect(page.getByRole('cell', { name: 'stopped', exact: true })).toBeVisible({ timeout: 20_000 })
    await expect(page.getByText('Pump runs dry')).toBeVisible()

    await choose(page, 'none', '')
    await begin(page)
    await expect(phase(page, 'Holding')).toBeVisible({ timeout: 20_000 })
    // Looks: at 75, 100 and 130 kPa, unless it bursts before; the first go counts the cameras down.
    for (const key of ['k', 'g', 'g']) {
      await expect(phase(page, 'LOOK').or(page.getByRole('heading', { name: 'Recorded', exact: true }))).toBeVisible({
        timeout: 90_000,
      })
      if (await page.getByRole('heading', { name: 'Recorded', exact: true }).isVisible()) break
      await page.keyboard.press(key)
      await expect(phase(page, 'LOOK')).toBeHidden()
    }
    await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toBeVisible({ timeout: 60_000 })
    await expect(page.getByRole('cell', { name: /^(article broke|ladder done)$/ })).toBeVisible()
    await expect(page.getByText(/10 s, then load/)).toBeVisible()
    await page.getByRole('link', { name: 'To the reduction' }).click()
    await page.getByRole('link', { name: 'Look at the record' }).click()
    await expect(page.getByRole('region', { name: 'Channel list' }).getByText('Pressure, far end')).toBeVisible()
  },
)

test('a logger’s own stream is listened to, mapped, followed and lost', async ({ person: page, baseURL }) => {
  const sockets = new Set<Socket>()
  let k = 0
  const logger = createServer(s => {
    sockets.add(s)
    s.on('error', () => {}).on('close', () => sockets.delete(s))
    s.write('Zeit;Last;Weg Mitte\n[s];[kN];[mm]\n')
  })
  await new Promise<void>(resolve => logger.listen(0, '127.0.0.1', resolve))
  const timer = setInterval(
    () => sockets.forEach(s => s.write(`${(k++ / 20).toFixed(2).replace('.', ',')};0,031;4,${k % 10}\n`)),
    50,
  )
  try {
    await readyTest(page, baseURL!, /Bladder/)
    await page.getByRole('radio', { name: 'A logger’s live stream' }).click()
    await page
      .getByRole('textbox', { name: 'Host and port' })
      .fill(`127.0.0.1:${(logger.address() as { port: number }).port}`)
    await page.getByRole('button', { name: 'Listen' }).click()
    await expect(page.getByText(/semicolon-separated, decimal comma/)).toBeVisible({ timeout: 10_000 })
    await expect(page.getByLabel('Column of Load')).toHaveValue('Last')
    await page.getByLabel('Column of Mid-span').selectOption('Weg Mitte')
    await begin(page)
    await expect(page.getByTestId('load')).toHaveText(/0\.00/)
    await page.getByRole('radio', { name: 'Numbers' }).click()
    await expect(page.locator('[data-channel="load"]')).toContainText('kN')
    sockets.forEach(s => s.destroy())
    await expect(page.getByText('the stream is lost')).toBeVisible()
    await expect(phase(page, 'HELD')).toBeVisible()
    await expect(page.getByText(/^stream back: after/)).toBeVisible({ timeout: 10_000 })
    await page.keyboard.press('x')
    await expect(page.getByRole('cell', { name: 'aborted', exact: true })).toBeVisible({ timeout: 40_000 })
    await expect(page.getByRole('cell', { name: /^Live stream/ })).toBeVisible()
  } finally {
    clearInterval(timer)
    sockets.forEach(s => s.destroy())
    logger.close()
  }
})

test(
  'a crew without a logger types what is shouted; whoever looks on from elsewhere sees it, and is passed ' +
    'the controls',
  async ({ person: page, browser, baseURL }) => {
    const id = await readyTest(page, baseURL!, /Bladder/)
    await page.getByRole('radio', { name: 'Read by hand' }).click()
    await begin(page)
    await expect(page.getByText(/± 0\.28\s*mm by its sensor/)).toBeVisible()
    // By keys alone: the field to be read has the focus.
    await page.keyboard.type('0.42')
    await page.keyboard.press('Enter')
    await expect(page.getByText('call-out: read by hand')).toBeVisible()

    const picture = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    )
    await page
      .getByLabel('Photo for the record')
      .setInputFiles({ name: 'dial.png', mimeType: 'image/png', buffer: picture })
    await expect(page.getByText('photo: dial.png')).toBeVisible()

    const elsewhere = await browser.newContext()
    await elsewhere.addCookies([{ name: 'hypomet-person', value: 'Bo', url: baseURL! }])
    const other = await elsewhere.newPage()
    await open(other, `/tests/${id}/run`)
    await expect(other.getByText('call-out: read by hand')).toBeVisible()
    await expect(page.getByText('Ada, Bo').or(page.getByText('Bo, Ada'))).toBeVisible()
    await page.getByLabel('Pass the controls to').selectOption('Bo')
    await expect(other.getByTestId('controller')).toHaveText('Bo')
    await page.getByLabel('Mid-span').fill('0.5 mm')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toContainText('Bo has the controls')
    // Heard while a field has the focus as well.
    await other.keyboard.press('F9')
    await other.getByRole('button', { name: 'The load is off' }).click()
    await expect(other.getByRole('cell', { name: 'aborted', exact: true })).toBeVisible({ timeout: 40_000 })
    await expect(other.getByRole('heading', { name: 'Photos of the run' })).toBeVisible()
    await expect(other.getByRole('link', { name: /^dial\.png/ })).toBeVisible()
    await elsewhere.close()
  },
)

test('a reading written down wrong is struck out beside the right one; one beyond its gauge is asked about', async ({
  person: page,
  baseURL,
}) => {
  const id = await readyTest(page, baseURL!, /Bladder/)
  await page.getByRole('radio', { name: 'Read by hand' }).click()
  await begin(page)
  const dial = page.getByLabel('Mid-span')
  await dial.fill('0')
  await page.keyboard.press('Enter')
  await dial.fill('4700 mm')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-beyond]')).toContainText('is beyond the')
  const written = page.getByText('call-out: read by hand')
  await expect(written).toHaveCount(1)
  // It was read like that, says whoever reads: it is written down, and then it was not.
  await page.keyboard.press('Enter')
  await expect(written).toHaveCount(2)
  await page.getByRole('button', { name: 'Strike out' }).first().click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.locator('[data-was]')).toContainText('4700')
  await dialog.getByLabel(/, right$/).fill('4.7 mm')
  await dialog.getByRole('button', { name: 'Strike out' }).click()
  await expect(page.getByText(/struck out: .* is struck out, 4\.700?\s*mm is right/)).toBeVisible()
  await expect(page.locator('li').filter({ hasText: 'call-out' }).first().locator('.line-through')).toBeVisible()

  await page.keyboard.press('F9')
  await page.getByRole('button', { name: 'The load is off' }).click()
  await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toBeVisible({ timeout: 40_000 })
  await test.step('after the run as well, and the gauge is not locked by what it never read', async () => {
    await page.getByRole('list', { name: 'Events' }).getByRole('button', { name: 'Strike out' }).first().click()
    await dialog.getByLabel(/, right$/).fill('0.1 mm')
    await dialog.getByRole('button', { name: 'Strike out' }).click()
    await expect(dialog).toBeHidden()
    const { sensors } = (await (await page.request.get(`/api/tests/${id}`)).json()) as {
      sensors: { name: string; overRanged?: unknown }[]
    }
    expect(sensors.filter(s => s.overRanged)).toEqual([])
  })
})
