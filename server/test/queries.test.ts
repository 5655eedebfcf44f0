import { eq, getTableColumns, gt } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { benchPage } from '../db/campaigns/bench'
import { articlePage, campaignPage, listCampaigns } from '../db/campaigns/campaigns'
import { learningOf } from '../db/campaigns/learning'
import { specimensOf } from '../db/articles/specimens'
import { sizingInputOf } from '../db/articles/sizing'
import type { Connection } from '../db/connection/client'
import { manyRows } from '../db/connection/manyRows'
import { recordJudgement } from '../db/results/judgements'
import { twinsOf } from '../db/results/reductions'
import { campaign, channel, judgement, limit, prediction, revision, run, tableVersion, test } from '../db/schema'
import { TestSet } from '../db/tests/testSet'
import { testPage } from '../db/tests/tests'
import { ANSWERED, armWithPlan, BY, demoFile, importBytes, makeReady, reduceAndKeep, type TestServer } from './campaign'
import { temporaryDatabase } from './database'
import { multiply } from './multiply'

const MOST = 20

describe('a campaign of 300 tests', () => {
  let server: TestServer
  let arm: Awaited<ReturnType<typeof armWithPlan>>
  let tests: number[]
  beforeAll(async () => {
    server = await temporaryDatabase()
    arm = await armWithPlan(server.database)
    await makeReady(server.database, arm.testId)
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    await reduceAndKeep(server, arm.testId)
    const judged = { validity: 'valid', cause: 'article', place: '', mode: '', note: '', answers: ANSWERED } as const
    await recordJudgement(server.database, BY, arm.testId, judged)
    const size = { articles: 15, testsEach: 20, limitsEach: 10, predictionsEach: 10 }
    tests = await multiply(server.database.client, arm.testId, size)
  })
  afterAll(() => server.close())

  /** Something that every page reads; what is set to what it was does not count as a change. */
  const changed = () => server.database.client.execute('update campaign set version = version + 1')

  /** Statements that a page asks, and what it answers. */
  async function counted<T>(page: () => Promise<T>): Promise<{ queries: number; answer: T }> {
    await changed()
    const execute = vi.spyOn((server.database.read as Connection).$client, 'execute')
    const answer = await page()
    const queries = execute.mock.calls.length
    execute.mockRestore()
    return { queries, answer }
  }

  it.each([
    ['bench', () => benchPage(server.database, '2026-11-28')],
    ['list of campaigns', () => listCampaigns(server.database)],
    ['campaign', () => campaignPage(server.database, arm.slug)],
    ['what was learned', () => learningOf(server.database.read, arm.slug)],
    ['article', () => articlePage(server.database, arm.articleId)],
    ['test', () => testPage(server.database, tests[7]!)],
    ['specimens', () => specimensOf(server.database.read, tests[7]!)],
    ['twins', () => twinsOf(server.database.read, tests[7]!)],
    ['sizing', () => sizingInputOf(server.database.read, tests[7]!)],
  ])(`%s: at most ${MOST} queries`, async (_, page) => {
    const { queries } = await counted<unknown>(page)
    expect(queries).toBeGreaterThan(2)
    expect(queries).toBeLessThanOrEqual(MOST)
  })

  it('answers again without asking until something changes; asked twice at once it is worked out once', async () => {
    const { answer } = await counted(() => campaignPage(server.database, arm.slug))
    const again = vi.spyOn((server.database.read as Connection).$client, 'execute')
    expect(await campaignPage(server.database, arm.slug)).toBe(answer)
    expect(again).toHaveBeenCalledTimes(1)
    again.mockRestore()
    await changed()
    const [one, two] = await Promise.all([1, 2].map(() => campaignPage(server.database, arm.slug)))
    expect(one).not.toBe(answer)
    expect(one).toMatchObject({ ...answer, version: answer.version + 1 })
    expect(one).toBe(two)
    await server.database.write(db => db.update(campaign).set({ title: 'Renamed' }).where(eq(campaign.slug, arm.slug)))
    expect((await campaignPage(server.database, arm.slug)).title).toBe('Renamed')
  })

  it('reads a table anew once any row of it was written, by whomever, and only then', async () => {
    const { read } = server.database
    const write = (text: string) => server.database.client.execute(text)
    const rowsOf = async (set: TestSet) => [
      ...(await set.tests()).values(),
      ...(await set.limits()),
      ...(await set.expected()),
      ...(await set.judged()).values(),
      ...(await set.reduced()).values(),
    ]
    let asked = 0
    /** As pages ask; under a name of its own each time, so that the answer itself was not kept. */
    const kept = () => {
      asked += 1
      return server.database.kept(`${asked}`, rows => rowsOf(new TestSet(read, { campaignId: 1 }, rows)))
    }
    const triggers = await write("select tbl_name from sqlite_master where type = 'trigger'")
    for (const { name } of await read.select().from(tableVersion)) {
      expect(triggers.rows.filter(t => t['tbl_name'] === name)).toHaveLength(3)
      const first = await kept()
      const { queries, answer } = await counted(kept)
      expect(queries).toBe(1)
      expect(answer).toEqual(first)
      const { rows } = await write(`select name from pragma_table_info('${name}') limit 2`)
      const column = rows[1]!['name']
      await write(`update \`${name}\` set \`${column}\` = \`${column}\``)
      expect(await kept()).toEqual(await rowsOf(new TestSet(read, { campaignId: 1 })))
    }
    await write("update design_limit set name = 'Renamed by another' where id = 1")
    expect((await kept()).some(row => 'name' in row && row.name === 'Renamed by another')).toBe(true)
  })

  it.each(Object.entries({ test, limit, prediction, judgement, run, channel, revision }))(
    'reads thousands of rows of %s as the query builder would',
    async (_, table) => {
      const { read } = server.database
      const few = await read.select().from(table).where(gt(table.id, 3))
      const byId = (a: { id: number }, b: { id: number }) => a.id - b.id
      const many = await manyRows(read, table, getTableColumns(table), gt(table.id, 3))
      expect((many as { id: number }[]).sort(byId)).toEqual(few.sort(byId))
    },
  )

  it('reads every digit of a number', async () => {
    const { read } = server.database
    const [row] = await read.select({ id: prediction.id }).from(prediction).limit(1)
    await fc.assert(
      fc.asyncProperty(fc.double({ noNaN: true, noDefaultInfinity: true }), async value => {
        await server.database.write(db => db.update(prediction).set({ value }).where(eq(prediction.id, row!.id)))
        const [read1] = await manyRows(read, prediction, { value: prediction.value }, eq(prediction.id, row!.id))
        // SQLite knows no minus zero.
        expect(read1!.value).toBe(value === 0 ? 0 : value)
      }),
      { numRuns: 60 },
    )
  })

  it('says of each copied test what it says of the one that was copied', async () => {
    const { answer } = await counted(() => campaignPage(server.database, arm.slug))
    const all = answer.articles.flatMap(a => a.revisions.flatMap(r => r.tests))
    expect(all).toHaveLength(301)
    const [original, copy] = [all.find(t => t.id === arm.testId)!, all.find(t => t.id === tests[7])!]
    expect(copy.results).toEqual(original.results)
    expect(copy.stages.map(s => s.stage)).toEqual(original.stages.map(s => s.stage))
    expect(copy.stages.find(s => s.stage === 'reduce')).toEqual(original.stages.find(s => s.stage === 'reduce'))
    expect(answer.articles.map(a => a.limits.length).slice(1)).toEqual(Array(15).fill(10))
  })

  it('says the same once its plans need not be worked out anew', async () => {
    const first = await campaignPage(server.database, arm.slug)
    expect(await campaignPage(server.database, arm.slug)).toEqual(first)
    // The strip of a test's own page is worked out, not looked up.
    const strip = (await testPage(server.database, tests[7]!)).stages
    expect(first.articles.flatMap(a => a.revisions.flatMap(r => r.tests)).find(t => t.id === tests[7])!.stages).toEqual(
      strip,
    )
  })
})
