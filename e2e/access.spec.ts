import AxeBuilder from '@axe-core/playwright'
import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { expect, open, test } from './person'

interface Campaign {
  slug: string
  articles: { id: number; revisions: { tests: { id: number }[] }[] }[]
}

function screensOf({ slug, articles }: Campaign): string[] {
  const [arm] = articles
  const id = arm!.revisions[1]!.tests[0]!.id
  return [
    '/',
    `/campaigns/${slug}`,
    ...['limit', 'prediction', 'constant', 'action', 'test', 'schedule', 'learning'].map(
      r => `/campaigns/${slug}/${r}`,
    ),
    `/articles/${arm!.id}`,
    '/lessons',
    '/lessons/1',
    '/people',
    '/proofs',
    '/import',
    '/sensors',
    '/sensors/1',
    '/worksheets',
    '/worksheets/uncertainty',
    '/records/1',
    ...['plan', 'ready', 'sheets', 'run', 'reduce', 'judge', 'change'].map(s => `/tests/${id}/${s}`),
    `/reports/${id}`,
    `/compare?tests=${arm!.revisions[0]!.tests[0]!.id},${id}`,
  ]
}

test('every screen, light and dark: axe finds nothing, and nothing runs out of 1280 pixels', async ({
  person: page,
  baseURL,
}) => {
  // Some thirty screens, each looked over whole.
  test.setTimeout(900_000)
  const slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'))
  const campaigns = (await (await page.request.get('/api/campaigns')).json()) as Campaign[]
  const faults = async (builder: AxeBuilder, where: string) =>
    (await builder.analyze()).violations.map(v => `${where}: ${v.id} ${v.nodes[0]?.html ?? ''}`)
  for (const path of screensOf(campaigns.find(c => c.slug === slug)!)) {
    await page.emulateMedia({ colorScheme: 'light' })
    await open(page, path)
    await page.waitForLoadState('networkidle')
    const all = new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa'])
    expect(await faults(all, `light ${path}`)).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(1280)
    // The dark theme differs by its colours alone; a report is paper.
    await page.emulateMedia({ colorScheme: 'dark' })
    if (path.startsWith('/reports')) continue
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
    expect(await faults(new AxeBuilder({ page }).withRules(['color-contrast']), `dark ${path}`)).toEqual([])
  }
})

test('a test that is not there says so', async ({ page }) => {
  expect((await page.goto('/tests/99999/plan'))!.status()).toBe(404)
  expect((await page.goto('/campaigns/nowhere'))!.status()).toBe(404)
})
