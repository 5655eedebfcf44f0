// Makes docs/screenshots/ anew from the demo data, in the built application.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { ensureBuild, ensurePackages } from './ensure.mjs'

ensurePackages()
ensureBuild()
const { serve } = await import('./serve.mjs')
const { loadDemo, prepareTest } = await import('../.output/demo/load.mjs')
const folder = mkdtempSync(join(tmpdir(), 'hypomet-shots-'))
const { base, server } = await serve({ database: `file:${join(folder, 'hypomet.db')}`, usualPort: 4599 })
const slug = await loadDemo(base, join('demo', 'data'))
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' })
await context.addCookies([{ name: 'hypomet-person', value: 'Mara%20Lindqvist', url: base }])
const page = await context.newPage()

const shot = async name => {
  await page.waitForTimeout(900)
  await page.screenshot({ path: `docs/screenshots/${name}.png` })
}
/** Half of its height first. */
const heightsOf = ([zero, high, down]) => [
  zero,
  { ...high, target: { ...high.target, value: high.target.value / 2 } },
  high,
  down,
]
const at = async (path, name) => {
  await page.goto(base + path, { waitUntil: 'networkidle' })
  await shot(name)
}

await at('/', 'bench')
await at(`/campaigns/${slug}`, 'campaign')
await page.goto(`${base}/campaigns/${slug}/limit`, { waitUntil: 'networkidle' })
await page.locator('tr[data-row="new"] td').first().click()
await page.evaluate(
  text => {
    const data = new DataTransfer()
    data.setData('text/plain', text)
    document.activeElement.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    )
  },
  'Article\tResult\tLimit\tMust be\tValue\tSource\n' +
    'Hanger arm\tStiffness\tStiff enough\tat least\t35 N/mm\tSway sheet\n' +
    'Haul strop\tStiffness\tNot too soft\tat least\t38 mm\tSway sheet\n',
)
await shot('limits')
await at('/articles/1', 'article')
await page.goto(`${base}/campaigns/${slug}/schedule`, { waitUntil: 'networkidle' })
await page.getByText('What sets the end').waitFor()
await shot('schedule')
await page.goto(`${base}/worksheets/uncertainty`, { waitUntil: 'networkidle' })
await page.getByRole('button', { name: 'Draw', exact: true }).click()
await page.getByText('Shortest interval').waitFor()
await shot('worksheet')
await at('/tests/22/reduce', 'reduce')
await page.goto(`${base}/tests/15/reduce`, { waitUntil: 'networkidle' })
await page.locator('[data-retirement]').scrollIntoViewIfNeeded()
await shot('specimens')
await page.goto(`${base}/targets/5`, { waitUntil: 'networkidle' })
await page.getByText('They disagree by more than').waitFor()
await shot('targets')
await page.goto(`${base}/records/2`, { waitUntil: 'networkidle' })
await page
  .getByRole('img', { name: /over time/ })
  .first()
  .waitFor()
await page.mouse.move(660, 300)
await page.mouse.down()
await page.mouse.move(840, 300, { steps: 4 })
await page.mouse.up()
await shot('record')
await at('/tests/2/judge', 'judge')
await at('/reports/2', 'report')
await at('/compare?tests=1,2', 'compare')
await page.goto(`${base}/tests/2/change`, { waitUntil: 'networkidle' })
await page.locator('[data-candidate="caps-webs"]').waitFor()
await shot('change')
await page.locator('[data-candidate="caps-webs"]').getByRole('button', { name: 'Accept' }).click()
await page.getByRole('button', { name: 'Make revision C' }).click()
// What is planned and what is being made ready, of other kinds of test.
const { articles } = await (await fetch(`${base}/api/campaigns/${slug}`)).json()
const testOf = name =>
  articles
    .find(a => a.name === name)
    .revisions.flatMap(r => r.tests)
    .at(-1).id
await at(`/tests/${testOf('Service platform beam')}/plan`, 'plan')
await at(
  `/tests/${articles[0].revisions.flatMap(r => r.tests).find(t => t.title.startsWith('Proof load')).id}/ready`,
  'ready',
)
await page.goto(`${base}/tests/${testOf('Cargo floor panel')}/run`, { waitUntil: 'networkidle' })
await page.getByLabel('Logger file').setInputFiles(join('demo', 'data', 'hanger-arm-b.csv'))
await page.getByText(/semicolon-separated/).waitFor()
await shot('import')
// The console with its strips, a twin gauge parting.
const proof = articles[0].revisions.flatMap(r => r.tests).find(t => t.title.startsWith('Proof load')).id
await prepareTest(base, proof)
await page.goto(`${base}/tests/${proof}/run`, { waitUntil: 'networkidle' })
const start = page.getByRole('region', { name: 'Start a run' })
await start.getByLabel('Pace').selectOption('5')
await start.getByLabel('Surprise').selectOption('parts')
await start.getByRole('combobox', { name: 'Channel', exact: true }).selectOption({ label: 'Root cap strain, twin' })
await start.getByLabel('After, s').fill('118')
await start.getByRole('button', { name: 'Start the ladder' }).click()
await page.getByRole('radio', { name: 'Strips' }).click()
await page.waitForTimeout(20_000)
await page.getByText('HELD', { exact: true }).waitFor()
await page.waitForTimeout(600)
await shot('run')
await page.keyboard.press('x')
// A console of another kind: the newest drop of two heights.
const cabin = articles.find(a => a.name === 'Cabin on its buffer').revisions[0]
const dropped = (await (await fetch(`${base}/api/tests/${cabin.tests[0].id}`)).json()).test.plan
const { id: drops } = await (
  await fetch(`${base}/api/revisions/${cabin.id}/tests`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-hypomet-person': 'Mara%20Lindqvist' },
    body: JSON.stringify({ title: 'Two heights', plan: { ...dropped, rungs: heightsOf(dropped.rungs) } }),
  })
).json()
await prepareTest(base, drops)
await page.goto(`${base}/tests/${drops}/run`, { waitUntil: 'networkidle' })
await page.getByRole('region', { name: 'Start a run' }).getByLabel('Pace').selectOption('1')
await page.getByRole('button', { name: 'Start the ladder' }).click()
await page.getByText('Drop 1 recorded', { exact: true }).waitFor({ timeout: 60_000 })
await shot('drop')

await browser.close()
server.removeAllListeners('exit')
server.kill('SIGTERM')
rmSync(folder, { recursive: true, force: true })
