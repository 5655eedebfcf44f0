import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { firstBreak } from '../db/connection/audit'
import { campaignPage } from '../db/campaigns/campaigns'
import { benchPage } from '../db/campaigns/bench'
import { listRows } from '../db/registers/service'
import { recordPage } from '../db/records/records'
import { recordJudgement } from '../db/results/judgements'
import { campaign, judgement, reduction, test } from '../db/schema'
import { testPage } from '../db/tests/tests'
import { ANSWERED, BY, reduceAndKeep, type TestServer } from './campaign'
import { temporaryDatabase } from './database'

/** Written by the build of 26 November 2026, six migrations ago: a planned, run, reduced and judged test of the arm. */
const EARLIER = join(import.meta.dirname, 'data', 'build-of-round-one.db.gz')

describe('a database of an earlier build', () => {
  let server: TestServer
  let kept: typeof reduction.$inferSelect
  let slug: string
  beforeAll(async () => {
    server = await temporaryDatabase(gunzipSync(readFileSync(EARLIER)))
    kept = (await server.database.read.select().from(reduction))[0]!
    slug = (await server.database.read.select().from(campaign))[0]!.slug
  })
  afterAll(() => server.close())

  it('opens with all that it holds: rows, samples, and a chain of changes that is whole', async () => {
    const { read } = server.database
    const page = await testPage(server.database, kept.testId)
    expect(page.test.title).not.toBe('')
    expect(page.judgement).toMatchObject({ place: 'root', mode: 'bending', note: 'kept', by: BY })
    expect(page.stages.map(s => s.state)).toEqual(['done', 'done', 'done', 'done', 'done', 'open'])
    expect((await recordPage(read, 1)).channels.length).toBeGreaterThan(3)
    const { id } = await campaignPage(server.database, slug)
    for (const register of ['limit', 'sensor', 'article', 'revision'])
      expect((await listRows(read, register, id)).rows.length).toBeGreaterThan(0)
    expect((await benchPage(server.database, '2026-11-29')).campaigns).toHaveLength(1)
    expect(await firstBreak(read)).toBeNull()
  })

  it('keeps what an earlier method said; by the present one only what is defined anew differs', async () => {
    const again = await reduceAndKeep(server, kept.testId, kept.settings)
    const [anew] = await server.database.read.select().from(reduction).where(eq(reduction.id, again.id))
    const values = (r: typeof kept) =>
      Object.fromEntries(Object.entries(r.output.results).map(([k, { value, bound }]) => [k, { value, bound }]))
    const [before, after] = [values(kept), values(anew!)]
    const { deflectionAtDesign: crossed, ...same } = before
    expect(after).toMatchObject(same)
    // Between the means of two steps now, where it was the first crossing of a noisy load.
    expect(Math.abs(after['deflectionAtDesign']!.value! / crossed!.value! - 1)).toBeLessThan(0.003)
    expect([kept.output.version, anew!.output.version]).toEqual(['1.0.0', '1.1.0'])
    expect(await server.database.read.select().from(reduction).where(eq(reduction.id, kept.id))).toEqual([kept])
    expect(anew!.inputSha256).toBe(kept.inputSha256)
  })

  it('is worked on as any other: judged anew, with the earlier judgement still there', async () => {
    const judged = { validity: 'valid', cause: 'article', place: '', mode: '', note: '', answers: ANSWERED } as const
    await recordJudgement(server.database, BY, kept.testId, judged)
    expect(await server.database.read.select().from(judgement)).toHaveLength(2)
    expect((await server.database.read.select().from(test)).length).toBe(1)
    expect(await firstBreak(server.database.read)).toBeNull()
  })
})
