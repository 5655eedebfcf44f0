import { expect, test as base, type Page } from '@playwright/test'
import { prepareTest } from '../demo/load'

/** A page whose console must stay silent, with somebody at the keyboard. */
export const test = base.extend<{ person: Page }>({
  person: async ({ page, context, baseURL }, use) => {
    const said: string[] = []
    page.on('pageerror', e => said.push(String(e)))
    page.on('console', m => {
      // A refusal that the page shows is also a line in the browser's console; everything else is a fault.
      if (['error', 'warning'].includes(m.type()) && !/status of 4(22|09)/.test(m.text())) said.push(m.text())
    })
    await context.addCookies([{ name: 'hypomet-person', value: 'Ada', url: baseURL! }])
    await use(page)
    // A line that a job has pulled itself is no fault of the page.
    expect(said.filter(m => !m.includes('ERR_INTERNET_DISCONNECTED'))).toEqual([])
  },
})

export { expect }

/** Nuxt has taken the page over: from now on clicks are heard. */
export async function settled(page: Page): Promise<void> {
  await page.waitForFunction(
    () => (window as unknown as { useNuxtApp?: () => { isHydrating: boolean } }).useNuxtApp?.().isHydrating === false,
  )
}

export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path)
  await settled(page)
}

/** Types into a field that takes its value when it is left. */
export async function enter(page: Page, label: string | RegExp, text: string): Promise<void> {
  const field = page.getByLabel(label, { exact: typeof label === 'string' })
  await field.fill(text)
  await field.blur()
}

/** Answers every lesson that fired, as applied. */
export async function answerLessons(page: Page): Promise<void> {
  const open = page.getByRole('button', { name: /^Applied: / })
  for (let left = await open.count(); left > 0; left = await open.count()) {
    await open.first().click()
    await page.getByRole('button', { name: /^Answer as/ }).click()
    await expect(open).toHaveCount(left - 1)
  }
}

/**
 * Everything over HTTP: lessons answered, the plan released, readings typed, the rest ticked or overridden, signed by
 * role.
 */
export const makeReady = (testId: number): Promise<void> =>
  prepareTest(`http://127.0.0.1:${process.env['E2E_PORT']}`, testId)

/** Says of examples and what was derived that they are right. */
export async function ownNumbers(page: Page): Promise<void> {
  const asked = page.getByRole('button', { name: /^It is right/ })
  for (let left = await asked.count(); left > 0; left = await asked.count()) {
    await asked.first().click()
    await expect(asked).toHaveCount(left - 1)
  }
}

/** Chooses the first control of every hazard that has none, and releases the plan. */
export async function releasePlan(page: Page): Promise<void> {
  await ownNumbers(page)
  await page.getByRole('tab', { name: /^Hazards/ }).click()
  const bare = page.locator('fieldset[data-hazard]').filter({ hasText: 'nothing is done about it yet' })
  for (let left = await bare.count(); left > 0; left = await bare.count()) {
    await bare.first().getByRole('checkbox').first().check()
    await expect(bare).toHaveCount(left - 1)
  }
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Release', exact: true }).click()
  await expect(page.getByText(/^Plan, version \d+ · released$/)).toBeVisible()
}

/** Answers the questions of validity as the record has it, and signs. */
export async function sign(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Answer as recorded' }).click()
  await page.getByRole('button', { name: 'Sign as Ada' }).click()
  await expect(page.getByText(/Signed by Ada/)).toBeVisible()
}
