import AxeBuilder from '@axe-core/playwright'
import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { expect, open, test } from './person'

/** One demo for both themes. */
let demo: Promise<string> | undefined
const demoSlug = (baseURL: string) => (demo ??= loadDemo(baseURL, join(import.meta.dirname, '../demo/data')))

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

for (const theme of ['light', 'dark'])
  test(`every screen, ${theme}: axe finds nothing, and nothing runs out of 1280 pixels`, async ({
    person: page,
    context,
    baseURL,
  }) => {
    // Some thirty screens, each looked over whole.
    test.slow()
    const slug = await demoSlug(baseURL!)
    const campaigns = (await (await page.request.get('/api/campaigns')).json()) as Campaign[]
    await context.addCookies([{ name: 'hypomet-theme', value: theme, url: baseURL! }])
    for (const path of screensOf(campaigns.find(c => c.slug === slug)!)) {
      await open(page, path)
      await page.waitForLoadState('networkidle')
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa']).analyze()
      expect(violations.map(v => `${theme} ${path}: ${v.id} ${v.nodes[0]?.html ?? ''}`)).toEqual([])
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(1280)
    }
  })

test('a test that is not there says so', async ({ page }) => {
  expect((await page.goto('/tests/99999/plan'))!.status()).toBe(404)
  expect((await page.goto('/campaigns/nowhere'))!.status()).toBe(404)
})
