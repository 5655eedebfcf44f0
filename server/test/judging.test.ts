import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { adviseRevision } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { campaignPage } from '../db/campaigns/campaigns'
import { acceptCandidate } from '../db/articles/changes'
import { comparedOf } from '../db/results/compare'
import { evidenceOf } from '../db/results/evidence'
import { recordJudgement, type NewJudgement } from '../db/results/judgements'
import { learningOf } from '../db/campaigns/learning'
import { undoStep } from '../db/registers/undo'
import { writeRows } from '../db/registers/service'
import { pinNote } from '../db/tests/runNotes'
import { channel, run, runEvent, sensor } from '../db/schema'
import { keepSizingRules, sizingInputOf } from '../db/articles/sizing'
import { specimensOf } from '../db/articles/specimens'
import { createTest, testPage } from '../db/tests/tests'
import { UNNAMED } from '../db/connection/unnamed'
import { resultsCsv } from '../reports/results'
import { ANSWERED, armWithPlan, BY, demoFile, importBytes, makeReady, reduceAndKeep, refused } from './campaign'
import { temporaryDatabase } from './database'

let server: Awaited<ReturnType<typeof temporaryDatabase>>
let arm: Awaited<ReturnType<typeof armWithPlan>>
beforeEach(async () => {
  server = await temporaryDatabase()
  arm = await armWithPlan(server.database)
  await makeReady(server.database, arm.testId)
  await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
})
afterEach(() => server.close())

const judge = (change: Partial<NewJudgement> = {}, by = BY) =>
  recordJudgement(server.database, by, arm.testId, {
    validity: 'valid',
    cause: 'none',
    place: '',
    mode: '',
    note: '',
    answers: ANSWERED,
    ...change,
  })
const maxLoad = (results: Record<string, { bound: unknown }> | null | undefined) => results?.['maxLoad']?.bound

describe('a verdict', () => {
  it('is signed by name with every question answered', async () => {
    await reduceAndKeep(server, arm.testId)
    expect((await refused(judge({}, UNNAMED))).code).toBe('missing-name')
    expect(await refused(judge({ answers: { ...ANSWERED, record: undefined } }))).toMatchObject({
      code: 'missing-setting',
      place: { path: 'answers.record' },
    })
    expect(
      (await refused(judge({ answers: { ...ANSWERED, planned: { says: 'no', note: 'Rung 4 by hand' } } }))).code,
    ).toBe('validity-contradicts')
    expect((await judge()).by).toBe(BY)
  })

  it(
    'that the fixture ended bounds its strength wherever results are read; a newer reduction opens it and ' +
      'says what moved',
    async () => {
      const { database } = server
      const { read } = database
      // Taken for the article’s own end by whoever reduced it.
      const first = await reduceAndKeep(server, arm.testId)
      const asArticle = await reduceAndKeep(server, arm.testId, { ...first.settings, outcome: 'article' })
      expect(asArticle.output.results['maxLoad']!.bound).toBe('exact')
      await judge({ cause: 'fixture' })
      expect(maxLoad((await specimensOf(read, arm.testId))[0]!.results)).toBe('atLeast')
      expect(maxLoad((await sizingInputOf(read, arm.testId)).input.results)).toBe('atLeast')
      expect(maxLoad((await comparedOf(read, [arm.testId]))[0]!.results)).toBe('atLeast')
      expect(maxLoad((await campaignPage(database, arm.slug)).articles[0]!.revisions[0]!.tests[0]!.results)).toBe(
        'atLeast',
      )
      expect(await resultsCsv(database, arm.testId)).toMatch(/^maxLoad,[\d.]+,N,atLeast/m)
      const judged = (await testPage(database, arm.testId)).judgement!
      expect([judged.superseded, judged.verdicts.find(v => v.verdict === 'fail')?.reason]).toEqual([
        null,
        'The value lies above the limit with its uncertainty.',
      ])

      const later = await reduceAndKeep(server, arm.testId, { ...first.settings, designLoad: { value: 3, unit: 'kN' } })
      const opened = (await testPage(database, arm.testId)).judgement!
      expect(opened.superseded).toMatch(
        new RegExp(`^Reduction ${later.id} by ${BY} took the place of reduction ${asArticle.id}: .*89\\..*mm → 8`),
      )
      expect((await campaignPage(database, arm.slug)).articles[0]!.revisions[0]!.tests[0]!.verdicts).toEqual([])
    },
  )

  it('has beside each question what the record says to it', async () => {
    const { database } = server
    await reduceAndKeep(server, arm.testId)
    const clean = await evidenceOf(database.read, arm.testId)
    expect(clean.planned.for[0]).toContain('Imported from a file')
    expect(clean.calibration.for[0]).toMatch(/sensors, all in calibration/)
    await database.write(async db => {
      const [read] = await db.select().from(channel).where(eq(channel.role, 'load'))
      await db
        .update(sensor)
        .set({ calibrationDue: '2020-01-01', state: 'suspect', note: 'dropped' })
        .where(eq(sensor.id, read!.sensorId!))
      const [last] = await db.select().from(run).where(eq(run.testId, arm.testId))
      await db
        .insert(runEvent)
        .values({ runId: last!.id, t: 61.5, kind: 'deviation', note: 'Rung 4 went to 3.4 kN', by: BY, at: '' })
    })
    const { calibration, planned } = await evidenceOf(database.read, arm.testId)
    expect(calibration.against.join()).toMatch(/was due on 1 Jan 2020.*suspect: dropped/)
    expect(planned.against).toEqual(['61.5 s: Rung 4 went to 3.4 kN'])
  })

  it('keeps notes that are pinned to a moment of a run that is over', async () => {
    const { database } = server
    const [last] = (await testPage(database, arm.testId)).runs
    await pinNote(database, BY, last!.id, { t: 42.5, note: 'A crack was heard' })
    expect((await testPage(database, arm.testId)).runs[0]!.events.at(-1)).toMatchObject({
      t: 42.5,
      kind: 'note',
      note: 'A crack was heard',
      by: BY,
    })
    await database.write(async db => void (await db.update(run).set({ status: 'running' }).where(eq(run.id, last!.id))))
    expect((await refused(pinNote(database, BY, last!.id, { t: 1, note: 'x' }))).code).toBe('still-running')
  })
})

describe('rules of sizing', () => {
  it('are kept with the article, refused where they cannot be read, and taken back', async () => {
    const { database } = server
    await reduceAndKeep(server, arm.testId)
    const caps = async () =>
      adviseRevision((await sizingInputOf(database.read, arm.testId)).input).candidates.find(c => c.id === 'caps')!
    const before = (await caps()).sizes['capThickness']!
    expect(
      await refused(
        keepSizingRules(database, BY, arm.articleId, { made: { capThickness: { step: { value: 1, unit: 'kg' } } } }),
      ),
    ).toMatchObject({ code: 'unit-dimension', place: { path: 'made.capThickness.step' } })
    expect((await refused(keepSizingRules(database, BY, arm.articleId, { wantedMargin: -1 }))).code).toBe(
      'setting-range',
    )
    const { step } = await keepSizingRules(database, BY, arm.articleId, {
      made: {
        capThickness: {
          sizes: [
            { value: 3, unit: 'mm' },
            { value: 5, unit: 'mm' },
          ],
          cost: 400,
          leadTimeDays: 21,
        },
      },
    })
    expect(await caps()).toMatchObject({ sizes: { capThickness: 0.005 }, cost: 400, leadTimeDays: 21 })
    await undoStep(database, BY, step)
    expect((await caps()).sizes['capThickness']).toBe(before)
  })
})

describe('what was learned', () => {
  it(
    'sets a decision against what its revision measured, and a prediction against what came, ' + 'without names',
    async () => {
      const { database } = server
      await writeRows(database, BY, 'prediction', {
        campaignId: arm.campaignId,
        changes: [],
        removes: [],
        creates: [
          {
            revisionId: arm.revisionId,
            quantity: 'deflectionAtDesign',
            entered: { value: 80, unit: 'mm' },
            band: { value: 5, unit: '%' },
            method: 'hand',
            source: 'Sheet',
          },
        ],
      })
      // Said after the first sample: it locks for tests to come alone.
      await reduceAndKeep(server, arm.testId)
      await judge()
      const [chosen] = adviseRevision((await sizingInputOf(database.read, arm.testId)).input).candidates
      const { testId: next } = await acceptCandidate(database, BY, arm.testId, {
        sizes: { ...chosen!.sizes },
        label: 'C',
        from: 'revision',
        reasons: 'Lightest',
        weights: {},
      })
      expect(
        await refused(
          acceptCandidate(database, BY, arm.testId, { sizes: {}, label: 'D', from: 'test', reasons: '', weights: {} }),
        ),
      ).toMatchObject({ code: 'nothing-changed' })
      await makeReady(database, next)
      await importBytes(server, next, demoFile('hanger-arm-b.csv'))
      await reduceAndKeep(server, next)
      const again = await createTest(database, BY, arm.revisionId, { title: 'Once more', plan: arm.plan })
      await makeReady(database, again.id)
      await importBytes(server, again.id, demoFile('hanger-arm-b.csv'))
      await reduceAndKeep(server, again.id)

      const learned = await learningOf(database.read, arm.slug)
      expect(learned.decisions[0]).toMatchObject({
        article: 'Hanger arm',
        from: 'B',
        to: 'C',
        reasons: 'Lightest',
        afterId: next,
      })
      const service = learned.decisions[0]!.limits.find(l => l.name === 'Service deflection')!
      expect([service.before, service.after]).toEqual(['fail', 'fail'])
      expect(service.measured!.value).toBeGreaterThan(service.predicted.value!)
      expect(learned.predictions.filter(p => p.source === 'Sheet').map(p => p.testId)).toEqual([again.id])
      expect(learned.predictions.find(p => p.source === 'Sheet')!.predicted).toMatchObject({
        value: 0.08,
        u: expect.closeTo(0.002, 9) as number,
      })
      expect(JSON.stringify(learned)).not.toContain(BY)
      expect((await refused(learningOf(database.read, 'nowhere'))).code).toBe('not-found')
    },
  )
})
