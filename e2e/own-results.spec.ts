import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { enter, expect, open, settled, test } from './person'

/* A stranger's beam on seven cells, on a server of its own: what was read wrongly is mended; results of their own. */

const port = 19_100 + (process.pid % 800)
const base = `http://127.0.0.1:${port}`
let server: ChildProcess
const CELLS = ['LC1', 'LC2', 'LC3', 'LC4', 'LC5', 'LC6', 'LC7']

test.beforeAll(async () => {
  server = spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      HOST: '127.0.0.1',
      PORT: String(port),
      HYPOMET_DB: `file:${join(process.env['E2E_FOLDER']!, 'own-results.db')}`,
    },
  })
  await expect(async () => expect((await fetch(`${base}/api/health`)).ok).toBe(true)).toPass({ timeout: 60_000 })
})
test.afterAll(async () => {
  const over = new Promise(resolve => server.once('exit', resolve))
  server.kill('SIGTERM')
  await over
})

/**
 * Steps of 15 s to 4.2 kN and back, five rows a second, decimal commas; the logger stutters, the tip is written in cm
 * without a word of it, and two laser spots tell the rotation of the span.
 */
function beamFile(): string {
  const levels = [0, 0.7, 1.4, 2.1, 2.8, 3.5, 4.2, 0]
  let seed = 11
  const noise = (size: number) => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * size
  const comma = (v: number, digits: number) => v.toFixed(digits).replace('.', ',')
  const lines = Array.from({ length: levels.length * 100 }, (_, i) => {
    const t = i / 5
    const [k, into] = [Math.floor(t / 20), t % 20]
    const load = into < 15 ? levels[k]! : levels[k]! + ((levels[k + 1] ?? 0) - levels[k]!) * ((into - 15) / 5)
    const cells = CELLS.map((_, c) => comma(load / 7 + c * 0.002 + noise(0.0004), 4))
    const further = [1.2 * load, 210 * load + 18, 6 * load, 2 * load].map(v => comma(v + noise(0.004), 4))
    return [comma(t, 1), ...cells, ...further].join(';')
  })
  const stuttering = lines.flatMap((l, i) => (i % 97 === 50 ? [l, l] : [l]))
  const head = ['Zeit [s]', ...CELLS.map(c => `${c} [kN]`), 'Tip', 'SG4 [µε]', 'LL1 [mm]', 'LL5 [mm]'].join(';')
  return ['Messung 14', 'Bediener: JK', head, ...stuttering].join('\r\n') + '\r\n'
}

test('a beam on seven cells: the sum becomes the load, a strain a limit, a rotation a result with its U', async ({
  page,
}) => {
  test.setTimeout(300_000)
  await page.context().addCookies([{ name: 'hypomet-person', value: 'Jo Berg', url: base }])
  await open(page, `${base}/import`)
  await page
    .getByLabel('Logger file')
    .setInputFiles({ name: 'walkway_04.csv', mimeType: 'text/csv', buffer: Buffer.from(beamFile()) })
  const form = page.getByRole('form', { name: 'A new test for this data' })
  await form.getByLabel('Its title').fill('Walkway')
  await form.getByLabel('Article').fill('Deck beam')
  await form.getByLabel('Kind of test').selectOption('static')
  await form.getByRole('button', { name: 'Go on with this file' }).click()
  await expect(page).toHaveURL(/\/tests\/\d+\/run$/)
  const testId = Number(/tests\/(\d+)/.exec(page.url())![1])

  await test.step('stamps that repeat are refused with their row, and dropped when somebody says so', async () => {
    await page.getByLabel('Column of Load').selectOption('LC1 [kN]')
    await page.getByLabel('Column of Deflection').selectOption('Tip')
    await enter(page, 'Unit of Deflection', 'mm')
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(page.getByText(/Time stands still at row 55/)).toBeVisible({ timeout: 30_000 })
    await page.getByLabel('Repeated stamps').selectOption('drop')
    await page.getByRole('button', { name: /^Import/ }).click()
    const again = page.getByRole('button', { name: 'Import again' })
    await expect(again.or(page.getByRole('heading', { name: '1 · Import and clock' }))).toBeVisible({ timeout: 30_000 })
    if (await again.isVisible()) await again.click()
    await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
    await expect(page.getByText(/8 rows repeated the stamp before: dropped/)).toBeVisible()
  })

  await test.step('a sum of seven cells becomes the load', async () => {
    await page.getByRole('link', { name: 'Look at the record' }).click()
    await settled(page)
    await page.getByRole('button', { name: 'Derive' }).click()
    await page.getByLabel('Expression').fill(CELLS.map(c => `${c}_kN`).join(' + '))
    await page.getByLabel('Name of the new channel').fill('Total')
    await page.getByLabel('Read by reductions as').selectOption({ label: 'Load' })
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await expect(page.getByRole('button', { name: 'Mend Total' })).toBeVisible()
    await open(page, `${base}/tests/${testId}/reduce`)
    await expect(page.locator('[data-result="maxLoad"]')).toContainText(/4\.2\d/)
    await page.getByRole('button', { name: 'Keep results' }).click()
    await expect(page.getByRole('link', { name: 'Go to Judge' })).toBeVisible()
  })

  await test.step('a unit taken wrongly is mended where it is seen; the kept result is superseded', async () => {
    await expect(page.locator('[data-result="stiffness"]')).toContainText(/83\d\.\d\s*N/)
    await page.getByRole('button', { name: 'Mend Tip' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Unit').fill('cm')
    await dialog.getByRole('button', { name: 'Mend', exact: true }).click()
    await expect(dialog).toHaveCount(0, { timeout: 30_000 })
    await expect(page.locator('[data-result="stiffness"]')).toContainText(/[^\d]83\.\d+\s*N/)
    await expect(page.getByText(/supersedes an earlier one/)).toBeVisible()
  })

  await test.step('results of their own, of any channel', async () => {
    const own = page.getByRole('form', { name: 'A result of your own' })
    const add = async (name: string, reads: string, where: string, operand?: [string, string]) => {
      const more = page.getByRole('button', { name: 'Add a result' })
      if (!(await more.isVisible())) await page.getByText('Results of your own', { exact: true }).click()
      await more.click()
      await own.getByLabel('Name').fill(name)
      await own.getByLabel('Channel, or an expression of channels').fill(reads)
      await own.getByLabel('Where').selectOption({ label: where })
      if (operand) await own.getByLabel(operand[0], { exact: true }).fill(operand[1])
      await own.getByRole('button', { name: 'Add', exact: true }).click()
    }
    await add('Skin strain at 4 kN', 'SG4', 'at a load', ['Load', '4 kN'])
    await expect(page.locator('[data-result="Skin strain at 4 kN"]')).toContainText(/8[34]\d(\.\d)?\s*µε/)
    await add('Rotation of the span', '(LL1_mm - LL5_mm) / 1.27 m', 'at the largest load')
    await expect(page.locator('[data-result="Rotation of the span"]')).toContainText(/0\.0132|1\.32\s*%/)
    const strain = page.locator('[data-own="Skin strain at 4 kN"]')
    await strain.getByLabel(/for every test of Deck beam/).check()
    await expect(strain.getByLabel(/for every test of Deck beam/)).toBeChecked()
    // It is drawn as it was read, and stands beside others.
    await page.getByRole('radio', { name: 'Skin strain at 4 kN over load' }).click()
    await page.getByRole('button', { name: 'Keep these results' }).click()
    await expect(page.getByRole('link', { name: 'Go to Judge' })).toBeVisible()
    await open(page, `${base}/compare?tests=${testId}`)
    await expect(page.locator('[data-results]')).toContainText(/Skin strain at 4 kN.*8[34]\d(\.\d)?\s*µε/s)
  })

  await test.step('a limit on a strain: without its gauge it is undecided, and the way out is there', async () => {
    await open(page, `${base}/campaigns/walkway/limit`)
    const newRow = (key: string) => page.locator(`tr[data-row="new"] td[data-key="${key}"]`)
    const editor = page.locator('[data-editor] select')
    // The first cell of an empty sheet is where one stands: a click is enough.
    await newRow('articleId').click()
    await editor.selectOption({ label: 'Deck beam' })
    await page.keyboard.press('Tab')
    await page.keyboard.press('Enter')
    await page.locator('[data-editor] select').selectOption({ label: 'Skin strain at 4 kN' })
    await page.keyboard.press('Tab')
    await newRow('entered').click()
    await page.keyboard.type('900 µε')
    await page.keyboard.press('Enter')
    await expect(page.getByText('New limit “Skin strain at 4 kN”')).toBeVisible()
    await open(page, `${base}/tests/${testId}/judge`)
    const rail = page.locator('[data-limit="Skin strain at 4 kN"]')
    await expect(rail).toContainText(/8[34]\d(\.\d)?\s*µε/)
    await expect(rail).toContainText('No uncertainty is known of it')
    // Every gauge behind a result can be named here, and whatever was read wrongly is mended from here as well.
    await expect(page.getByLabel('Sensor of SG4 [µε]')).toBeVisible()
    await expect(page.getByLabel('Sensor of LC7 [kN]')).toBeVisible()
    await page.getByRole('button', { name: 'Mend Tip' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('button', { name: 'Turn its sign' }).click()
    await dialog.getByRole('button', { name: 'Mend', exact: true }).click()
    await expect(dialog).toHaveCount(0, { timeout: 30_000 })
    await expect(page.getByText(/“Tip”: its sign turned \(Jo Berg\)/)).toBeVisible()
  })

  await test.step('the file is read again with another clock', async () => {
    await page.goto(`${base}/tests/${testId}/reduce`)
    await page.getByRole('link', { name: 'Look at the record' }).click()
    await settled(page)
    await page.getByRole('button', { name: 'Read again' }).click()
    const panel = page.getByRole('region', { name: 'Read the file again' })
    await expect(panel.getByLabel('Column of time')).toHaveValue('Zeit [s]')
    await panel.getByLabel('Repeated stamps').selectOption('average')
    await panel.getByRole('button', { name: 'Read again' }).click()
    await expect(page.getByText(/8 rows repeated the stamp before: averaged into one/)).toBeVisible({ timeout: 60_000 })
    await expect(page.getByText(/the kept result was taken anew and superseded/)).toBeVisible()
  })
})
