import { expect, test as base, type Page } from '@playwright/test'

/** A page whose console must stay silent, with somebody at the keyboard. */
export const test = base.extend<{ person: Page }>({
  person: async ({ page, context, baseURL }, use) => {
    const said: string[] = []
    page.on('pageerror', e => said.push(String(e)))
    page.on('console', m => {
      // A refusal that the page shows is also a line in the browser's console; everything else is a fault.
      if (['error', 'warning'].includes(m.type()) && !/status of 422/.test(m.text())) said.push(m.text())
    })
    await context.addCookies([{ name: 'hypomet-person', value: 'Ada', url: baseURL! }])
    await use(page)
    expect(said).toEqual([])
  },
})

export { expect }

/** Nuxt has taken the page over: from now on clicks are heard. */
export async function settled(page: Page): Promise<void> {
  await page.waitForFunction(() => (window as unknown as { useNuxtApp?: () => { isHydrating: boolean } }).useNuxtApp?.().isHydrating === false)
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

export async function tickEverything(page: Page): Promise<void> {
  const open = page.getByRole('button', { name: /^Tick off/ })
  for (let left = await open.count(); left > 0; left = await open.count()) {
    await open.first().click()
    await expect(open).toHaveCount(left - 1)
  }
}
