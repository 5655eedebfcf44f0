import { execFile } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { APIRequestContext, Page } from '@playwright/test'
import { loadDemo } from '../demo/load'
import { expect, makeReady, open, test } from './person'

const DATA = join(import.meta.dirname, '../demo/data')
/** The specs share one database: the same bytes must not have been here before, so a remark is put in front. */
const own = (name: string, remark: string) =>
  Buffer.concat([Buffer.from(`# ${remark}\n`), readFileSync(join(DATA, name))])

/** Drops a file on the page, as from a folder. */
async function drop(page: Page, name: string, bytes: Buffer): Promise<void> {
  const carried = await page.evaluateHandle(
    ({ name: n, base64 }) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([Uint8Array.from(atob(base64), c => c.charCodeAt(0))], n))
      return transfer
    },
    { name, base64: bytes.toString('base64') },
  )
  await page.getByRole('main').dispatchEvent('drop', { dataTransfer: carried })
}

/** Picks a channel by its name. */
async function pick(page: Page, label: string, channel: string): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).fill(channel)
  await page.getByRole('option', { name: channel, exact: true }).click()
}

/** A test like the demo's of revision B, ready to run. */
async function readyTest(request: APIRequestContext, base: string): Promise<number> {
  const slug = await loadDemo(base, DATA, { specimens: false })
  const get = async (path: string) => (await request.get(path)).json() as Promise<Record<string, never>>
  const [campaign] = (
    (await get('/api/campaigns')) as unknown as {
      slug: string
      articles: { revisions: { id: number; tests: { id: number }[] }[] }[]
    }[]
  ).filter(c => c.slug === slug)
  const b = campaign!.articles[0]!.revisions[1]!
  const { test: planned } = (await get(`/api/tests/${b.tests[0]!.id}`)) as unknown as { test: { plan: object } }
  const { id } = (await (
    await request.post(`/api/revisions/${b.id}/tests`, { data: { title: 'Once more', plan: planned.plan } })
  ).json()) as { id: number }
  await makeReady(id)
  return id
}

test('the files of two loggers, dropped: understood, corrected, brought together, watched, deleted', async ({
  person: page,
  baseURL,
}) => {
  const id = await readyTest(page.request, baseURL!)
  await test.step('the first file is a run', async () => {
    await open(page, `/tests/${id}/run`)
    await drop(page, 'bench.csv', own('hanger-arm-b.csv', 'dropped'))
    await expect(page.getByText(/semicolon-separated, decimal comma · header in row 4, units in row 5/)).toBeVisible()
    await expect(page.getByLabel('Column of Load at the hook')).toHaveValue('Last')
    // The header is one line further on, a person claims; it is not, and that is said.
    await page.getByLabel('Header in line').fill('7')
    await page.getByLabel('Header in line').blur()
    await expect(page.getByRole('alert')).toContainText('Line 7 is no header')
    await drop(page, 'bench.csv', own('hanger-arm-b.csv', 'dropped'))
    await page.getByLabel('Column of Frame motion').selectOption('')
    await page.getByRole('button', { name: 'Calibration of Tip deflection' }).click()
    await page.getByLabel('Or a table').fill('0 0\n100 100\n90 120')
    await expect(page.getByText('point 3 does not')).toBeVisible()
    await page.getByLabel('Or a table').fill('0 0\n100 100\n200 200')
    await page.getByRole('button', { name: 'Use it' }).click()
    await expect(page.getByRole('button', { name: 'Calibration of Tip deflection' })).toHaveText('table, 3 points')
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(page).toHaveURL(/\/reduce$/)
  })

  await test.step('the second joins it, four seconds out', async () => {
    await page.goto(`/tests/${id}/run`)
    await open(page, `/tests/${id}/run`)
    await drop(page, 'fast.txt', own('hanger-arm-b-fast.csv', 'dropped'))
    await expect(page.getByText(/bar-separated.* about 50\.0\sHz/)).toBeVisible()
    await page.getByTestId('further-columns').click()
    await page.getByLabel('Unit of Acc tip [m/s2]').fill('g')
    await page.getByLabel('Unit of Acc tip [m/s2]').blur()
    await expect(page.getByRole('cell', { name: 'acceleration' })).toBeVisible()
    await expect(page.getByLabel('This file is')).toHaveValue('true')
    await expect(page.getByLabel('Column of Time')).toHaveValue('Clock')
    await page.getByLabel('Column of Frame motion').selectOption('Acc tip [m/s2]')
    await expect(page.getByRole('button', { name: 'Import', exact: true })).toBeEnabled()
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    // An acceleration is no motion.
    await expect(page.getByRole('alert')).toContainText('m/s')
    await page.getByLabel('Column of Frame motion').selectOption('')
    await page.getByRole('button', { name: /^Import/ }).click()
    await expect(page).toHaveURL(/\/records\/\d+$/)
  })

  await test.step('their clocks are brought together by what both recorded', async () => {
    await expect(page.getByText('with fast.txt:')).toBeVisible()
    await page.getByRole('button', { name: 'Clocks' }).click()
    await pick(page, 'Main record', 'DMS Wurzel')
    await pick(page, 'fast.txt', 'DMS root twin')
    await page.getByRole('button', { name: 'Find', exact: true }).click()
    await expect(page.getByText(/^Later by (3\.9|4\.0)/)).toBeVisible()
    await page.getByRole('button', { name: 'Set the clock so' }).click()
    await expect(page.getByText(/clock set by (3\.9|4\.0)/)).toBeVisible()
    await page.getByLabel(/Set by, s/).fill('4')
    await page.getByRole('button', { name: 'Set', exact: true }).click()
    await expect(page.getByText('clock set by 4.000 s')).toBeVisible()
  })

  await test.step('twins are watched', async () => {
    await page.getByRole('button', { name: 'Redundant channels' }).click()
    await pick(page, 'Channel', 'DMS Wurzel')
    await pick(page, 'Redundant channel', 'DMS root twin')
    await page.getByLabel(/May differ by/).fill('40')
    await page.getByLabel(/May differ by/).blur()
    await page.getByRole('button', { name: 'Compare' }).click()
    await expect(page.getByRole('cell', { name: /disagrees from/ })).toBeVisible()
    await page.getByRole('combobox', { name: 'Group channels' }).selectOption('logger')
    await expect(page.getByRole('button', { name: /fast\.txt 3, \d flagged/ })).toBeVisible()
    await page.getByRole('button', { name: 'Check data quality' }).click()
    await page.getByLabel(/Gaps/).fill('5')
    await page.locator('form').getByRole('button', { name: 'Check data quality' }).click()
    // Only 1.4 % of the frame's samples are missing.
    await expect(page.getByRole('region', { name: 'Channel list' }).getByRole('button', { name: /gap/ })).toHaveCount(0)
  })

  await test.step('one can be deleted, and what rests on it is said', async () => {
    await page.getByRole('button', { name: 'Delete fast.txt' }).click()
    await expect(page.getByText('1 pair of channels')).toBeVisible()
    await page.getByRole('button', { name: 'Delete the record' }).click()
    await expect(page.getByText('with fast.txt:')).toHaveCount(0)
    await expect(page.getByRole('button', { name: 'Delete bench.csv' })).toBeVisible()
  })
})

test('a file from the command line, and the same bytes again', async ({ person: page, baseURL }, info) => {
  const id = await readyTest(page.request, baseURL!)
  const path = info.outputPath('by-command.csv')
  writeFileSync(path, own('hanger-arm-b.csv', 'by command'))
  const command = (file: string, ...args: string[]) =>
    promisify(execFile)('node', [
      'cli/bin/hypomet.mjs',
      'import',
      file,
      '--test',
      String(id),
      '--server',
      baseURL!,
      ...args,
    ]).then(
      r => JSON.parse(r.stdout) as { record: number; about: string },
      (e: { stderr: string }) => JSON.parse(e.stderr) as { error: { code: string } },
    )
  expect(await command(path, '--look')).toMatchObject({ about: expect.stringContaining('semicolon') as unknown })
  const twoCells = info.outputPath('two-cells.csv')
  writeFileSync(twoCells, 'Time [s];LC1 [kN];LC2 [kN];Tip [mm]\n0;1;2;3\n1;2;3;4\n2;3;4;5\n')
  expect(await command(twoCells)).toMatchObject({ error: { code: 'column-open' } })
  const { record } = (await command(path, '--by', 'Robot')) as { record: number }
  await open(page, `/records/${record}`)
  await expect(page.getByText('3,567 rows')).toBeVisible()
  expect(await command(path)).toMatchObject({ error: { code: 'known-bytes' } })
  // Dropped where there is no test at hand, it asks for one.
  await open(page, '/')
  await drop(page, 'the-same.csv', readFileSync(path))
  await expect(page).toHaveURL(/\/import$/)
  await page.getByRole('radio', { name: 'One that is here' }).click()
  await page
    .getByRole('link', { name: /^Import for Once more/ })
    .first()
    .click()
  await expect(page).toHaveURL(`/tests/${id}/run`)
  await page.getByLabel('This file is').selectOption({ label: 'a new run of this test' })
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page.getByRole('status')).toContainText('The same bytes were imported before: Once more')
  await page.getByRole('button', { name: 'Import again' }).click()
  await expect(page).toHaveURL(/\/reduce$/)
})
