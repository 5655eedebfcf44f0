import { join } from 'node:path'
import type { APIRequestContext, Page } from '@playwright/test'
import { expect, makeReady, open } from './person'

const DATA = join(import.meta.dirname, '../demo/data')
const LAST_OF_THE_DEMO = 'Six in bearing'

interface Found {
  id: number
  title: string
  revisionId: number
  articleId: number
}
export type DemoTests = Awaited<ReturnType<typeof demoTests>>

/** The tests of a whole demo, loaded where no earlier file of tests has done so. */
export async function demoTests(request: APIRequestContext) {
  interface Campaign {
    slug: string
    articles: { id: number; revisions: { id: number; tests: { id: number; title: string }[] }[] }[]
  }
  const found = async (wanted: (tests: Found[], slug: string) => boolean) => {
    const campaigns = (await (await request.get('/api/campaigns')).json()) as Campaign[]
    return campaigns
      .map(c => ({
        slug: c.slug,
        tests: c.articles.flatMap(a =>
          a.revisions.flatMap(r => r.tests.map((t): Found => ({ ...t, revisionId: r.id, articleId: a.id }))),
        ),
      }))
      .find(c => wanted(c.tests, c.slug))?.tests
  }
  const there = await found(tests => tests.some(t => t.title === LAST_OF_THE_DEMO))
  const slug = there ? null : await sample(request)
  const tests = there ?? (await found((_, s) => s === slug))!
  return { of: (title: string): Found => tests.find(t => t.title === title)! }
}

/** Loads the sample as the Bench's button does; its campaign's address. */
async function sample(request: APIRequestContext): Promise<string> {
  type Sample = { state: string; slug?: string; message?: string }
  let now = (await (await request.post('/api/sample')).json()) as Sample
  while (now.state === 'loading') {
    await new Promise(resolve => setTimeout(resolve, 500))
    now = (await (await request.get('/api/sample')).json()) as Sample
  }
  if (now.slug === undefined) throw new Error(`The sample was not loaded: ${now.message}`)
  return now.slug
}

/** A test planned like one of the demo, ready to be run; `waitsAtItsEnd` makes its last rung wait for a go. */
export async function like(
  page: Page,
  tests: DemoTests,
  title: string,
  { waitsAtItsEnd = false } = {},
): Promise<number> {
  const found = tests.of(title)
  const got = await page.request.get(`/api/tests/${found.id}`)
  const { plan } = ((await got.json()) as { test: { plan: { rungs: object[] } } }).test
  const rungs = plan.rungs.map((r, i) => (waitsAtItsEnd && i === plan.rungs.length - 1 ? { ...r, decision: true } : r))
  const made = await page.request.post(`/api/revisions/${found.revisionId}/tests`, {
    data: { title: `${title}, again`, plan: { ...plan, rungs } },
  })
  const { id } = (await made.json()) as { id: number }
  await makeReady(id)
  return id
}

export async function importFile(page: Page, id: number, file: string): Promise<void> {
  await open(page, `/tests/${id}/run`)
  await page.getByLabel('Logger file').setInputFiles(join(DATA, file))
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await page.getByRole('button', { name: 'Import again' }).click()
  await expect(page).toHaveURL(/\/reduce$/)
}

export const result = (page: Page, key: string) => page.locator(`[data-result="${key}"]`)
export const keep = (page: Page) => page.getByRole('button', { name: /^Keep (these )?results$/ }).click()
