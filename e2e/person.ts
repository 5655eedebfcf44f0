import { expect, test as base, type APIRequestContext, type Page } from '@playwright/test'

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

/** Answers every lesson that fired, as applied. */
export async function answerLessons(page: Page): Promise<void> {
  const open = page.getByRole('button', { name: /^Applied: / })
  for (let left = await open.count(); left > 0; left = await open.count()) {
    await open.first().click()
    await page.getByRole('button', { name: /^Answer as/ }).click()
    await expect(open).toHaveCount(left - 1)
  }
}

/** The same over HTTP, and every open item ticked or overridden. */
export async function makeReady(request: APIRequestContext, testId: number): Promise<void> {
  const { ready, firings, campaign } = (await (await request.get(`/api/tests/${testId}`)).json()) as { campaign: { id: number }; firings: { id: number; version: number; answer: string | null }[]; ready: { key: string; state: string; group: string; automatic?: boolean }[] }
  for (const f of firings.filter(x => x.answer === null)) await request.post('/api/registers/firing', { data: { campaignId: campaign.id, changes: [{ id: f.id, version: f.version, values: { answer: 'applied' } }] } })
  for (const item of ready.filter(i => i.state === 'open' && i.group !== 'Lessons')) await request.put(`/api/tests/${testId}/ready`, { data: item.automatic === false ? { key: item.key, state: 'overridden', reason: 'the only one' } : { key: item.key, state: 'done' } })
}

export async function tickEverything(page: Page): Promise<void> {
  const open = page.getByRole('button', { name: /^Tick off/ })
  for (let left = await open.count(); left > 0; left = await open.count()) {
    await open.first().click()
    await expect(open).toHaveCount(left - 1)
  }
}
