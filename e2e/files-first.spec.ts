import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { enter, expect, open, test } from './person'

/* From an empty bench with a file that was there first: on a server of its own, for the suite's has campaigns. */

const port = 18_100 + (process.pid % 900)
const base = `http://127.0.0.1:${port}`
let server: ChildProcess

async function start(database: string): Promise<void> {
  server = spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      HOST: '127.0.0.1',
      PORT: String(port),
      HYPOMET_DB: `file:${join(process.env['E2E_FOLDER']!, database)}`,
    },
  })
  await expect(async () => expect((await fetch(`${base}/api/health`)).ok).toBe(true)).toPass({ timeout: 60_000 })
}
test.afterEach(async () => {
  const over = new Promise(resolve => server.once('exit', resolve))
  server.kill('SIGTERM')
  await over
})

/** A rope drawn at 0.16 kN a second until it parts at 11.2 kN, by two cells that a logger calls LC1 and LC2. */
function ropeFile(): string {
  const comma = (v: number, digits: number) => v.toFixed(digits).replace('.', ',')
  const rows = Array.from({ length: 900 }, (_, i) => i / 10).map(t => {
    const force = t < 5 ? 0 : t < 75 ? 0.16 * (t - 5) : 0.05
    const stroke = t < 75 ? Math.max(0, 2.1 * (t - 5)) : 160
    return [comma(t, 1), comma(force, 3), comma(0.98 * force + 0.03, 3), comma(stroke, 2), '21,4'].join(';')
  })
  const head = ['Logger;DX-4;Serial;0192', 'Operator;JK', '', 'Elapsed (s);LC1 (kN);LC2 (kN);Stroke (mm);Amb (°C)']
  return '\ufeff' + [...head, ...rows].join('\r\n') + '\r\n'
}

async function drop(page: Page, name: string, text: string): Promise<void> {
  const data = await page.evaluateHandle(
    ([n, t]) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([t!], n!, { type: 'text/csv' }))
      return transfer
    },
    [name, text],
  )
  await page.dispatchEvent('main', 'drop', { dataTransfer: data })
}

test('a file dropped on an empty bench becomes a test, a result and a verdict, in fifteen steps', async ({ page }) => {
  test.setTimeout(180_000)
  let steps = 0
  const step = async (work: Promise<unknown>) => {
    steps++
    await work
  }
  await start('files-first.db')
  await open(page, `${base}/`)
  await step(drop(page, 'rope_pull_03.csv', ropeFile()))
  await expect(page).toHaveURL(/\/import$/)
  const columns = page.getByRole('table', { name: 'Columns of the file' })
  await expect(columns.getByRole('row')).toHaveCount(6)
  await expect(columns.getByRole('columnheader', { name: 'All 900 rows' })).toBeVisible()
  await expect(columns.getByRole('row', { name: /LC1/ })).toContainText('0 … 11.18')

  // Neither a reload nor a walk to another page loses it.
  await open(page, `${base}/sensors`)
  await expect(page.getByRole('complementary', { name: 'A file waits' })).toContainText('rope_pull_03.csv')
  await page.getByRole('link', { name: 'Which test is it of?' }).click()

  const form = page.getByRole('form', { name: 'A new test for this data' })
  await expect(form.getByLabel('Test', { exact: true })).toHaveValue('rope_pull_03')
  await step(form.getByLabel('Its title').fill('Rope days'))
  await step(form.getByLabel('Article').fill('Yard rope'))
  await step(form.getByLabel('Kind of test').selectOption('pull'))
  await step(form.getByRole('button', { name: 'Add a limit' }).click())
  await step(enter(page, 'Value of limit 1', '8 kN'))
  await step(form.getByRole('button', { name: 'Go on with this file' }).click())
  // Nothing is written before somebody has said who they are.
  const dialog = page.getByRole('dialog', { name: 'Who are you?' })
  await step(dialog.getByLabel('Your name').fill('Jo Berg'))
  await step(dialog.getByRole('button', { name: 'Go on' }).click())

  await expect(page).toHaveURL(/\/tests\/\d+\/run$/)
  await expect(page.getByText('LC1 (kN), LC2 (kN): which?')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Import', exact: true })).toBeDisabled()
  await step(page.getByLabel('Column of Force').selectOption('LC1 (kN)'))
  await step(page.getByLabel('How the test ended').selectOption('article broke'))
  await step(page.getByRole('button', { name: 'Import', exact: true }).click())
  await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
  await expect(page.locator('[data-result="peakForce"]')).toContainText(/11\.1\d/)
  await step(page.getByRole('button', { name: 'Keep results' }).click())
  await step(page.getByRole('link', { name: 'Go to Judge' }).click())
  await expect(page.getByText(/Readiness not recorded: recorded elsewhere; not planned here/)).toBeVisible()
  await expect(
    page
      .locator('[data-limit]')
      .getByText(/undecided/i)
      .first(),
  ).toBeVisible()
  expect(steps).toBeLessThanOrEqual(15)

  await test.step('what would decide it is a word on the cell, and it can be given', async () => {
    const made = await page.request.post(`${base}/api/registers/sensor`, {
      data: {
        campaignId: null,
        creates: [
          {
            name: 'Cell 20 kN',
            kind: 'force',
            fullScale: { value: 20, unit: 'kN' },
            linearity: { value: 1, unit: '%' },
          },
        ],
      },
    })
    expect(made.ok()).toBe(true)
    await page.getByRole('link', { name: 'Name the sensors' }).click()
    await page.getByLabel('Sensor of LC1 (kN)').selectOption('Cell 20 kN')
    await expect(page.locator('[data-result="peakForce"]')).toContainText(/11\.\d+\s*±\s*0\.2\d*/)
    // The kept result has been taken anew with it.
    await expect(page.getByText(/supersedes an earlier one/)).toBeVisible()
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    await expect(
      page
        .locator('[data-limit]')
        .getByText(/^Pass$/i)
        .first(),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Answer as recorded' }).click()
  })
  await page.getByRole('link', { name: /^Plan/ }).first().click()
  await expect(page.getByText('Not planned here', { exact: true })).toBeVisible()
  await expect(page.getByRole('complementary', { name: 'A file waits' })).toHaveCount(0)

  await test.step('what cannot be read is said; beside one campaign there may be another', async () => {
    await open(page, `${base}/import`)
    const file = page.getByLabel('Logger file')
    await file.setInputFiles({ name: 'torn.csv', mimeType: 'text/csv', buffer: Buffer.from([0, 1, 2, 0, 255]) })
    await expect(page.getByRole('alert')).toContainText('This file is not text')
    await expect(form).toHaveCount(0)
    const rows = 't;F\n0;5,000\n1;6,000\n2;7,000\n3;8,000\n'
    await file.setInputFiles({ name: 'two.csv', mimeType: 'text/csv', buffer: Buffer.from(rows) })
    await expect(page.getByText('“5,000” may be two numbers: asked before the import')).toBeVisible()
    await expect(form.getByLabel('Campaign')).toHaveValue(/\d/)
    await form.getByLabel('Campaign').selectOption({ label: 'a new one' })
    await expect(form.getByLabel('Its title')).toBeVisible()
    await form.getByLabel('Its title').fill('Other days')
    await form.getByLabel('Article').fill('Sling')
    await form.getByLabel('Kind of test').selectOption('pull')
    await form.getByRole('button', { name: 'Add a limit' }).click()
    await enter(page, 'Value of limit 1', 'eight')
    await expect(form.getByRole('button', { name: 'Go on with this file' })).toBeDisabled()
    await expect(page.getByText('Give the value of each limit, or take it out.')).toBeVisible()
  })
})

test('whoever wants to look around begins the sample by a button, once, and sees the bench fill', async ({ page }) => {
  await start('sample.db')
  await open(page, `${base}/`)
  await page.getByRole('button', { name: 'Load the sample campaign' }).click()
  await expect(page.getByRole('button', { name: 'Loading the sample …' })).toBeDisabled()
  // A page that is opened meanwhile does not begin it again; the whole of it is loaded for the tests of its kinds.
  await expect(async () => {
    await open(page, `${base}/`)
    await expect(page.getByRole('link', { name: 'Tarn carrier' }).first()).toBeVisible({ timeout: 1000 })
  }).toPass({ timeout: 60_000 })
  await expect(page.getByText('The sample campaign is being loaded')).toBeVisible()
  const again = await page.request.post(`${base}/api/sample`)
  expect(await again.json()).toEqual({ state: 'loading' })
  expect(await (await page.request.get(`${base}/api/campaigns`)).json()).toHaveLength(1)
})
