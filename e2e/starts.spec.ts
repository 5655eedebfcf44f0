import type { Locator, Page } from '@playwright/test'
import { enter, expect, open, sign, test } from './person'

/*
 * From nothing to a verdict and a change, by what a newcomer sees: a campaign, an article with its sizes, a limit, a
 * plan that invents nothing, a file whose truth is known, and the next revision.
 */

const G = 9.80665
/** Numbers that look like noise, the same each time. */
const noise = (i: number) => ((i * 7919 + 104_729) % 1009) / 1009 - 0.5

const fill = async (within: Page | Locator, label: string, text: string) => {
  const field = within.getByLabel(label, { exact: true })
  await field.fill(text)
  await field.blur()
}

/** A campaign with one article and its limit, typed in the dialogs of its page. */
async function begun(
  page: Page,
  name: string,
  kind: string,
  facts: Record<string, string>,
  limit: { result: string; comparator?: string; value: string },
): Promise<void> {
  await open(page, '/')
  await page.getByRole('button', { name: 'New campaign' }).first().click()
  await fill(page.getByRole('dialog'), 'Title', `${name} campaign`)
  await page.getByRole('dialog').getByRole('button', { name: 'Create' }).click()
  await page.getByRole('button', { name: 'Add the first article' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Kind of test').selectOption({ label: kind })
  await fill(dialog, 'Article', name)
  for (const [label, text] of Object.entries(facts)) await fill(dialog, label, text)
  await dialog.getByRole('button', { name: 'Add article' }).click()
  await expect(dialog).toBeHidden()
  await page.getByRole('button', { name: 'New limit' }).click()
  await page.getByRole('dialog').getByLabel('Result').selectOption({ label: limit.result })
  if (limit.comparator) await page.getByRole('dialog').getByLabel('Must be').selectOption({ label: limit.comparator })
  await fill(page.getByRole('dialog'), 'Limit', 'Holds')
  await fill(page.getByRole('dialog'), 'Value', limit.value)
  await page.getByRole('button', { name: 'Add limit' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.getByRole('button', { name: 'New test' }).first().click()
  await fill(page.getByRole('dialog'), 'Title', 'First')
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^(Add|Plan|Create)/ })
    .click()
  await page.waitForURL(/\/tests\/\d+\/plan$/)
}

async function imported(page: Page, file: string, text: string, ended: string, units: Record<string, string> = {}) {
  await page.getByRole('link', { name: /^Run/ }).click()
  await page.getByLabel('Logger file').setInputFiles({ name: file, mimeType: 'text/csv', buffer: Buffer.from(text) })
  for (const [label, unit] of Object.entries(units)) await enter(page, `Unit of ${label}`, unit)
  await page.getByLabel('How the test ended').selectOption(ended)
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
}

/** Kept, judged and changed: the next revision has the size under the name that the article’s form shows. */
async function changed(page: Page, size: string): Promise<void> {
  await page.getByRole('button', { name: 'Keep results' }).click()
  await page.getByRole('link', { name: 'Go to Judge' }).click()
  await sign(page)
  await page.getByRole('link', { name: /^Change/ }).click()
  const candidate = page
    .locator('[data-candidate]')
    .filter({ hasText: new RegExp(size, 'i') })
    .first()
  await expect(candidate).toBeVisible({ timeout: 20_000 })
}

test('a bag, burst: sizes once, rounds to what its limit asks, an interval of the truth, a thicker wall', async ({
  person: page,
}) => {
  await begun(
    page,
    'Float bag',
    'Burst',
    { Radius: '210 mm', Volume: '48 L', 'Wall thickness': '0.75 mm', 'Rated pressure': '2 bar' },
    { result: 'Burst pressure', value: '8 bar' },
  )
  // 8 bar in the campaign's MPa: 0.2, 0.4, 0.6, 0.8; nothing of a shackle or a heater.
  await expect(page.locator('[data-fact="Hoop line load"]')).toHaveText(/168\skN\/m/)
  await expect(page.getByLabel('Volume', { exact: true })).toHaveAttribute('placeholder', /48 L, as of the article/)
  await expect(page.locator('[data-finding="example-values"]')).toHaveCount(0)
  await expect(page.locator('[data-finding="not-said"]')).toHaveCount(0)

  const rows = Array.from({ length: 900 }, (_, i) => {
    const t = i / 10
    const p = t < 5 ? 0 : t < 75 ? Math.min(7.4, (7.4 * (t - 5)) / 70) : 0.02
    return `${t.toFixed(1)};${(p + 0.004 * noise(i)).toFixed(4)}`
  })
  await imported(page, 'bag.csv', `Time [s];Pressure [bar]\n${rows.join('\n')}\n`, 'article broke')
  await expect(page.locator('[data-result="burstPressure"]')).toContainText(/7(3[6-9]|4\d)\.?\d*\skPa/)
  // 8 bar over the rated 2 bar.
  await expect(page.getByLabel('Factor that is asked')).toHaveValue('4')
  await changed(page, 'Wall thickness')
})

test('a cabin, dropped: mass and height of the article, a pulse of known plateau, another wall of the buffer', async ({
  person: page,
}) => {
  await begun(
    page,
    'Cabin',
    'Drop',
    { 'Falling mass': '400 kg', 'Drop height': '1.2 m', 'Wall of the buffer': '2.5 mm', 'Space to crush': '180 mm' },
    { result: 'Plateau', comparator: 'at most', value: '12 g' },
  )
  // The ladder ends at the article's own height; 400 kg · g · 1.2 m = 4.7 kJ.
  await expect(page.locator('[data-fact="Velocity at impact"]')).toHaveText(/4\.85\sm\/s/)
  await expect(page.locator('[data-finding="example-values"]')).toHaveCount(0)
  const v = Math.sqrt(2 * G * 1.2)
  const [plateau, rise] = [14, 0.006]
  // 14 g hold until the speed is gone.
  const lasts = v / (plateau * G)
  const at = (t: number) =>
    t < 0.1 || t > 0.1 + lasts + rise
      ? 0
      : Math.min(plateau, (plateau * (t - 0.1)) / rise, (plateau * (0.1 + lasts + rise - t)) / rise)
  const rows = Array.from(
    { length: 6000 },
    (_, i) => `${(i / 10_000).toFixed(4)},${(at(i / 10_000) + 0.05 * noise(i)).toFixed(3)}`,
  )
  await imported(page, 'drop.csv', `Time [s],Floor [g]\n${rows.join('\n')}\n`, 'ladder done')
  await expect(page.locator('[data-result="plateau"]')).toContainText(/13[67]\.\d\sm\/s²/)
  await changed(page, 'Wall of the buffer')
})

test('a canopy, let go: a plan of its own with wind and field; its landing area foretold; another area', async ({
  person: page,
}) => {
  await begun(
    page,
    'Canopy',
    'Descent',
    { 'Canopy area': '28 m2', 'Mass that descends': '60 kg', 'Drag coefficient': '0.85', Vent: '0.4 m' },
    { result: 'Rate of descent', comparator: 'at most', value: '6 m/s' },
  )
  await expect(page.getByLabel('How the load is brought in')).toHaveValue('canopy')
  // Nothing is made up: when it opens, the wind and the field are asked for.
  await expect(page.locator('[data-finding="not-said"]')).toHaveCount(3)
  await enter(page, 'Exit to first opening', '1 s')
  await page.getByRole('button', { name: 'Add to wind by layer' }).click()
  await enter(page, 'Lower end 1', '0 m')
  await enter(page, 'Wind 1', '4 m/s')
  await enter(page, 'From 1', '270 deg')
  await expect(page.locator('[data-fact="Rate at the ground"]')).toHaveText(/6\.3\d\sm\/s/)
  await expect(page.locator('[data-fact="95 % land within"]')).toHaveText(/\d/)
  // Down from 300 m at √(2·60·g/(1.225·23.8)) = 6.35 m/s; the record has 6.6 m/s.
  const rate = 6.6
  const rows = Array.from({ length: 1100 }, (_, i) => {
    const t = i / 20
    const h = t < 5 ? 300 : Math.max(0, 300 - rate * (t - 5))
    return `${t.toFixed(2)},${(h + 0.1 * noise(i)).toFixed(2)}`
  })
  await imported(page, 'canopy.csv', `Time [s],Altitude [m]\n${rows.join('\n')}\n`, 'ladder done')
  await enter(page, 'Temperature at altitude 0', '15 °C')
  await enter(page, 'Pressure at altitude 0', '1013.25 hPa')
  await expect(page.locator('[data-result="descentRate"]')).toContainText(/6\.[56]\d*/)
  await changed(page, 'Canopy area')
})
