import { createHash } from 'node:crypto'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { adviseRevision, runReduce } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { firstBreak } from '../db/connection/audit'
import { campaignPage } from '../db/campaigns/campaigns'
import { acceptCandidate } from '../db/articles/changes'
import { plannedChannels, previewFile } from '../db/records/datasets'
import { evidenceOf } from '../db/results/evidence'
import { recordJudgement } from '../db/results/judgements'
import { audit, channel, chunk, dataset } from '../db/schema'
import { readStrip } from '../db/records/samples'
import { writeRows } from '../db/registers/service'
import { savePlan } from '../db/tests/plans'
import { assertReady, markReady } from '../db/tests/readiness'
import { sizingInputOf } from '../db/articles/sizing'
import { testPage } from '../db/tests/tests'
import { resultsCsv, resultsJson } from '../reports/results'
import { temporaryDatabase } from './database'
import { ANSWERED, armWithPlan, BY, demoFile, importBytes, reduceAndKeep, refused, makeReady } from './campaign'
import { demoFiles } from '../../demo/generate'

let server: Awaited<ReturnType<typeof temporaryDatabase>>
let arm: Awaited<ReturnType<typeof armWithPlan>>
beforeEach(async () => {
  server = await temporaryDatabase()
  arm = await armWithPlan(server.database)
})
afterEach(() => server.close())

describe('one thread, from limit to next revision', () => {
  it('keeps a file as it came, reduces it with uncertainty, judges it and makes the next revision', async () => {
    const { database } = server
    await makeReady(database, arm.testId)
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    const kept = await reduceAndKeep(server, arm.testId)
    const { results } = kept.output
    expect(results['deflectionAtDesign']!.value).toBeCloseTo(0.0894, 3)
    expect(results['maxLoad']).toMatchObject({ bound: 'atLeast' })
    expect(results['deflectionAtDesign']!.u).toBeGreaterThan(0)
    const judged = await recordJudgement(database, BY, arm.testId, {
      validity: 'valid',
      cause: 'none',
      place: '',
      mode: '',
      note: '',
      answers: ANSWERED,
    })
    expect(judged.reductionId).toBe(kept.id)
    expect(judged.verdicts.map(v => v.verdict)).toEqual(['pass', 'fail', 'undecided'])

    const advice = adviseRevision((await sizingInputOf(database.read, arm.testId)).input)
    expect(advice.driver?.driver).toBe('stiffness')
    const { testId: nextId, revision } = await acceptCandidate(database, BY, arm.testId, {
      candidateId: 'caps-webs',
      label: 'C',
      from: 'test',
      reasons: 'Keeps the mould',
      weights: { mass: 1 },
      lesson: { title: 'Thin caps bend', happened: 'B bent 9 % too far', instead: 'Size caps by the measured modulus' },
    })
    expect(revision.changed).toMatch(/cap thickness 3\.00.mm → /)
    const next = await testPage(database, nextId)
    // The decision stands with its reasons and what else was there; its lesson fires on the plan that it made.
    expect((await testPage(database, arm.testId)).decisions[0]).toMatchObject({
      label: 'C',
      reasons: 'Keeps the mould',
      chosen: { id: 'caps-webs' },
      alternatives: expect.arrayContaining([expect.objectContaining({ id: 'caps' })]) as unknown,
    })
    expect(next.firings.map(f => f.lesson.title)).toContain('Thin caps bend')
    expect(next.predictions.every(p => p.source === 'scaled from revision B' && p.lockedAt === null)).toBe(true)
    expect(
      (
        await refused(
          acceptCandidate(database, BY, arm.testId, {
            candidateId: 'caps',
            label: 'C',
            from: 'test',
            reasons: '',
            weights: {},
          }),
        )
      ).code,
    ).toBe('taken')

    // The new revision's readings lock what was predicted, and the plan's own calculation with it.
    const [fired] = next.firings
    await writeRows(database, BY, 'firing', {
      campaignId: null,
      creates: [],
      removes: [],
      changes: [{ id: fired!.id, version: fired!.version, values: { answer: 'applied', reason: '' } }],
    })
    await makeReady(database, nextId)
    await importBytes(server, nextId, demoFile('hanger-arm-b.csv'))
    const { predictions } = await testPage(database, nextId)
    expect(predictions.every(p => p.lockedAt !== null)).toBe(true)
    expect(new Set(predictions.map(p => p.source))).toEqual(new Set(['scaled from revision B', 'beam calculation']))

    const page = await campaignPage(database, arm.slug)
    expect(page.articles[0]!.revisions.map(r => r.label)).toEqual(['B', 'C'])
    expect(await firstBreak(database.read)).toBeNull()
  })

  it('recomputes to the same digits, from the store and from the file', async () => {
    await makeReady(server.database, arm.testId)
    const bytes = demoFile('hanger-arm-b.csv')
    await importBytes(server, arm.testId, bytes)
    const first = await reduceAndKeep(server, arm.testId)
    const second = await reduceAndKeep(server, arm.testId, first.settings)
    expect(second.outputSha256).toBe(first.outputSha256)
    expect(second.supersedesId).toBe(first.id)
    const channels = previewFile(bytes, await plannedChannels(server.database.read, arm.testId)).guess
    const fromFile = runReduce({ family: 'static', channels, settings: first.settings }, bytes, {
      sensors: first.sensors as never,
    })
    expect({ ...fromFile, warnings: [] }).toEqual({ ...first.output, warnings: [] })
    const json = await resultsJson(server.database, arm.testId, null)
    expect(json.inputSha256).toBe(createHash('sha256').update(bytes).digest('hex'))
    expect(await resultsCsv(server.database, arm.testId)).toMatch(
      /^maxLoad,5\d{3}\.\d+,N,atLeast,[\d.]+,[\d.]+,Ultimate load,atLeast,4800,pass$/m,
    )
    // Judged invalid, the same numbers show nothing, in the export as on the page.
    await recordJudgement(server.database, BY, arm.testId, {
      validity: 'invalid',
      cause: 'instrumentation',
      place: '',
      mode: '',
      note: '',
      answers: ANSWERED,
    })
    expect(await resultsCsv(server.database, arm.testId)).toMatch(/^maxLoad,5\d{3}\.\d+,N,atLeast,.*,undecided$/m)
    const strip = await readStrip(server.database.read, first.datasetId, ['load'], 100)
    expect(strip.channels['load']!.max.length).toBe(strip.t.length)
    expect(Math.max(...strip.channels['load']!.max.map(v => v ?? 0)) - 5600).toBeLessThan(30)
  })

  it('makes the same demo files as those that ship', () => {
    for (const [name, text] of Object.entries(demoFiles()))
      expect(Buffer.from(demoFile(name)).toString('utf8') === text, name).toBe(true)
  })
})

describe('what is refused', () => {
  it('data of elsewhere waits for no checklist, and says so in its record', async () => {
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    const { planned } = await evidenceOf(server.database.read, arm.testId)
    expect(planned.for.join(' ')).toMatch(/Readiness not recorded: recorded elsewhere; \d+ items of the checklist open/)
  })

  it('an open checklist blocks; an override wants a reason; a settled item cannot be ticked', async () => {
    const { database } = server
    expect((await refused(assertReady(database.read, arm.testId))).code).toBe('not-ready')
    expect(
      (await refused(markReady(database, BY, arm.testId, { key: 'control:tether', state: 'overridden', reason: ' ' })))
        .code,
    ).toBe('missing-reason')
    expect(
      (await refused(markReady(database, BY, arm.testId, { key: 'range:load', state: 'done', reason: '' }))).code,
    ).toBe('settled')
    await makeReady(database, arm.testId)
    await expect(assertReady(database.read, arm.testId)).resolves.toBeUndefined()
  })

  it.each([
    ['time goes back', 'Time;Last;Weg\n0;1;2\n1;2;3\n0,5;3;4\n2;4;5\n', 'time-order', { row: 4, column: 'Time' }],
    ['a ragged row', 'Time;Last;Weg\n0;1;2\n1;2\n2;3;4\n', 'ragged-row', { row: 3 }],
    ['no such column', 'Time;Kraft;Weg\n0;1;2\n', 'missing-column', { column: 'Last' }],
    ['nothing', '', 'empty-file', {}],
    ['no numbers', 'Time;Last;Weg\n0;off;2\n1;off;3\n', 'no-data', { column: 'Last' }],
  ])('a broken file (%s) names its place and leaves nothing behind', async (_what, text, code, place) => {
    await makeReady(server.database, arm.testId)
    const channels = {
      t: { column: 'Time', unit: 's' },
      load: { column: 'Last', unit: 'kN' },
      deflection: { column: 'Weg', unit: 'mm' },
    }
    const error = await refused(importBytes(server, arm.testId, new TextEncoder().encode(text), { channels }))
    expect(error).toMatchObject({ code, place: { file: 'arm.csv', ...place } })
    const { read } = server.database
    expect([
      await read.select().from(dataset),
      await read.select().from(channel),
      await read.select().from(chunk),
    ]).toEqual([[], [], []])
    const page = await testPage(server.database, arm.testId)
    expect([page.runs.length, page.predictions.length]).toEqual([0, 0])
  })

  it('a column in a unit of the wrong dimension', async () => {
    await makeReady(server.database, arm.testId)
    const channels = {
      t: { column: 'Zeit', unit: 's' },
      load: { column: 'Last', unit: 'mm' },
      deflection: { column: 'Weg Spitze', unit: 'mm' },
    }
    expect(await refused(importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'), { channels }))).toMatchObject({
      code: 'unit-dimension',
      place: { path: 'channels.load.unit' },
    })
  })

  it('a plan that does not hold together, and any change of one that was run', async () => {
    expect(
      await refused(savePlan(server.database, BY, arm.testId, { ...arm.plan, designLoad: { value: 1, unit: 'mm' } })),
    ).toMatchObject({ code: 'unit-dimension', place: { path: 'plan.designLoad' } })
    await makeReady(server.database, arm.testId)
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    expect((await refused(savePlan(server.database, BY, arm.testId, arm.plan))).code).toBe('plan-fixed')
  })

  it('an audit entry that was touched breaks the chain at its place', async () => {
    const entries = await server.database.read.select().from(audit)
    await server.database.write(db =>
      db.update(audit).set({ who: 'somebody else' }).where(eq(audit.id, entries[2]!.id)),
    )
    expect(await firstBreak(server.database.read)).toBe(entries[2]!.id)
  })
})
