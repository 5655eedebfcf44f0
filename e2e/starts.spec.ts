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
  await page.getByRole('dialog').getByRole('button', { name: /^(Add|Plan|Create)/ }).click()
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
  const candidate = page.locator('[data-candidate]').filter({ hasText: size }).first()
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
  await expect(page.locator('[data-result="burstPressure"]')).toContainText(/0\.7[34]\d*/)
  await enter(page, /^Factor that is asked/, '3')
  await changed(page, 'Wall thickness')
})
