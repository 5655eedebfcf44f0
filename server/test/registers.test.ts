import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { adviseRevision, type Row } from '@hypomet/core'
import { firstBreak } from '../db/connection/audit'
import { attach, attachmentsOf, removeAttachment } from '../db/tests/attachments'
import { benchPage } from '../db/campaigns/bench'
import { campaignPage } from '../db/campaigns/campaigns'
import { acceptCandidate } from '../db/articles/changes'
import { movedBy, replaceConstant, sizeAnew } from '../db/articles/constantsMoved'
import { firingsOf, firingsOfLesson } from '../db/tests/firings'
import { recordJudgement } from '../db/results/judgements'
import { historyOf, listRows, writeRows, type Batch } from '../db/registers/service'
import { undoStep } from '../db/registers/undo'
import { search } from '../db/campaigns/search'
import { overRangesOf } from '../db/registers/inventory'
import { assertReady, markReady, readyItemsOf } from '../db/tests/readiness'
import { sizingInputOf } from '../db/articles/sizing'
import { createTest, testPage } from '../db/tests/tests'
import { iCalendar } from '../reports/calendar'
import { importRows, registerFile } from '../reports/registers'
import {
  ANSWERED,
  armWithPlan,
  BY,
  demoFile,
  importBytes,
  reduceAndKeep,
  makeReady,
  refused,
  signAll,
} from './campaign'
import { temporaryDatabase } from './database'

let server: Awaited<ReturnType<typeof temporaryDatabase>>
let arm: Awaited<ReturnType<typeof armWithPlan>>
beforeEach(async () => {
  server = await temporaryDatabase()
  arm = await armWithPlan(server.database)
})
afterEach(() => server.close())

const write = (register: string, batch: Partial<Batch>, by = BY) =>
  writeRows(server.database, by, register, {
    campaignId: arm.campaignId,
    creates: [],
    changes: [],
    removes: [],
    ...batch,
  })
const rows = async (register: string) => (await listRows(server.database.read, register, arm.campaignId)).rows
const named = async (register: string, key: string, value: unknown) =>
  (await rows(register)).find(r => r[key] === value)!
const change = async (register: string, row: { id: number; version: number }, values: Row, by = BY) =>
  write(register, { changes: [{ id: row.id, version: row.version, values }] }, by)
const lesson = {
  title: 'Clamps pull',
  happened: 'It tore.',
  instead: 'Let it turn.',
  families: ['Static load'],
  features: ['bonded'],
  fixtures: [],
  methods: [],
  words: [],
}
const laminate = [{ subject: 'Laminate', property: 'Modulus', entered: { value: 58, unit: 'GPa' }, origin: 'supplier' }]

describe('what people enter', () => {
  it('is kept whole or not at all: a broken row among good ones leaves none behind', async () => {
    const before = (await rows('limit')).length
    const good = {
      articleId: arm.articleId,
      quantity: 'stiffness',
      name: 'Stiff',
      comparator: 'atLeast',
      entered: { value: 30, unit: 'N/mm' },
    }
    const error = await refused(write('limit', { creates: [good, { ...good, entered: { value: 3, unit: 'mm' } }] }))
    expect(error).toMatchObject({ code: 'unit-dimension', place: { path: 'entered', row: 2 } })
    expect((await rows('limit')).length).toBe(before)
  })

  it('of two people who save the same row the later is told who was first and what they changed', async () => {
    const row = await named('limit', 'name', 'Permanent set')
    await change('limit', row, { source: 'Alignment sheet 3' }, 'Jonte')
    const error = await refused(change('limit', row, { level: 'service' }))
    expect(error.code).toBe('changed-meanwhile')
    expect(error.message).toContain('Jonte saved this limit before you (Source)')
    expect((await named('limit', 'name', 'Permanent set'))['level']).toBe('limit')
  })

  it(
    'is undone in one step and done again, each an entry of the chain; not over what somebody ' + 'changed since',
    async () => {
      const row = await named('limit', 'name', 'Permanent set')
      const { step } = await change('limit', row, { entered: { value: 1.2, unit: 'mm' } })
      const undone = await undoStep(server.database, BY, step)
      expect(await named('limit', 'name', 'Permanent set')).toMatchObject({ entered: row['entered'] })
      const again = await undoStep(server.database, BY, undone.step)
      expect((await named('limit', 'name', 'Permanent set'))['entered']).toEqual({ value: 1.2, unit: 'mm' })
      await change('limit', await named('limit', 'name', 'Permanent set'), { source: 'later' }, 'Jonte')
      expect((await refused(undoStep(server.database, BY, again.step))).code).toBe('changed-meanwhile')
      expect((await historyOf(server.database.read, 'limit', row.id)).map(h => h.what)).toEqual([
        'change',
        'undo',
        'undo',
        'change',
        'create',
      ])
      expect(await firstBreak(server.database.read)).toBeNull()
    },
  )

  it('stays while others rest on it, and a removed row comes back with its number', async () => {
    await write('person', { creates: [{ name: 'Silje', role: 'technician' }] })
    const person = await named('person', 'name', 'Silje')
    await write('action', { creates: [{ question: 'Which core?', ownerId: person.id }] })
    expect((await refused(write('person', { removes: [person] }))).message).toContain('owns the action “Which core?”')
    const action = await named('action', 'question', 'Which core?')
    const { step } = await write('action', { removes: [action] })
    await write('person', { removes: [person] })
    // Its owner is gone: the action cannot come back alone.
    expect(await refused(undoStep(server.database, BY, step))).toMatchObject({
      code: 'unknown-reference',
      place: { path: 'ownerId' },
    })
    expect(await rows('action')).toEqual([])
  })

  it('goes out as CSV and JSON and comes back the same; a foreign word is named with its row', async () => {
    const { database } = server
    for (const format of ['csv', 'json'] as const) {
      const text = await registerFile(database.read, 'limit', arm.campaignId, format, null)
      const before = await rows('limit')
      await importRows(database, BY, 'limit', { campaignId: arm.campaignId, text: text.replace('82', '81'), format })
      expect(await named('limit', 'name', 'Service deflection')).toMatchObject({ entered: { value: 81, unit: 'mm' } })
      await change('limit', await named('limit', 'name', 'Service deflection'), { entered: { value: 82, unit: 'mm' } })
      expect((await rows('limit')).map(r => ({ ...r, version: 0 }))).toEqual(before.map(r => ({ ...r, version: 0 })))
    }
    const csv = 'Article,Result,Limit,Must be,Value\nHanger arm,Beauty,Fair,at least,1\n'
    expect(
      await refused(importRows(database, BY, 'limit', { campaignId: arm.campaignId, text: csv, format: 'csv' })),
    ).toMatchObject({ code: 'setting-range', place: { row: 2, column: 'Result' } })
  })

  it('is found by any of its words', async () => {
    await write('lesson', { creates: [lesson] })
    const found = async (words: string) => (await search(server.database.read, words)).map(h => h.where.split(' ')[0])
    expect(await found('let turn')).toEqual(['lesson'])
    expect(await found('service platform')).toEqual(['limit'])
    expect(await found('LC-04')).toEqual(['sensor'])
    expect(await found('nowhere')).toEqual([])
  })
})

describe('revisions', () => {
  const next = (label: string, more: Row = {}) => ({
    articleId: arm.articleId,
    label,
    parentId: arm.revisionId,
    ...more,
  })
  it('none is its own ancestor, none carries a label twice', async () => {
    const { properties, ...b } = await named('revision', 'label', 'B')
    await write('revision', { creates: [next('C', { properties })] })
    const c = await named('revision', 'label', 'C')
    expect(await refused(change('revision', b as never, { parentId: c.id }))).toMatchObject({
      code: 'own-ancestor',
      place: { path: 'parentId' },
    })
    expect(await refused(change('revision', b as never, { parentId: b.id }))).toMatchObject({ code: 'own-ancestor' })
    expect(await refused(write('revision', { creates: [next('B', { properties })] }))).toMatchObject({
      code: 'taken',
      place: { path: 'label' },
    })
    expect((await refused(write('revision', { removes: [b as never] }))).message).toContain('revision C follows it')
  })

  it('of a kind that cannot be run here yet keep facts, limits and predictions, and can be planned', async () => {
    const [article] = (await write('article', { creates: [{ name: 'Strop', family: 'pull' }] })).ids
    const [revision] = (
      await write('revision', {
        creates: [{ articleId: article, label: 'A', facts: [{ group: 'Other', name: 'Wear', value: 'new' }] }],
      })
    ).ids
    await write('limit', {
      creates: [
        {
          articleId: article,
          quantity: 'peakForce',
          name: 'Break',
          comparator: 'atLeast',
          entered: { value: 6.5, unit: 'kN' },
          factor: 5,
        },
      ],
    })
    await write('prediction', {
      creates: [
        {
          revisionId: revision,
          quantity: 'peakForce',
          entered: { value: 40, unit: 'kN' },
          band: { value: 5, unit: '%' },
          source: 'Tag',
          method: 'supplier',
        },
      ],
    })
    const page = (await campaignPage(server.database, arm.slug)).articles.find(a => a.id === article)!
    expect(page.limits[0]!.value).toBeCloseTo(32_500, 9)
    expect(page.revisions[0]!.predictions[0]).toMatchObject({ value: 40_000, u: 1000, k: 2 })
    const rungs = [0, 10, 20].map(value => ({ target: { value, unit: 'kN' }, hold: 5 }))
    const plan = {
      loading: { kind: 'pull', path: [{ name: 'Strop', capacity: 32_000, article: true }] },
      rungs,
      channels: [],
    }
    const { id } = await createTest(server.database, BY, revision!, { title: 'Pull', plan })
    expect((await testPage(server.database, id)).view).toMatchObject({
      maxTarget: 20_000,
      commanded: { role: 'force', kind: 'force' },
    })
    expect(
      await refused(
        createTest(server.database, BY, revision!, { title: 'Pull', plan: { ...plan, loading: { kind: 'bags' } } }),
      ),
    ).toMatchObject({ place: { path: 'plan.loading.stations' } })
  })
})

describe('a change of a limit', () => {
  it('reopens the verdicts that used it; undoing it lets them stand; a withdrawn one judges no more', async () => {
    const { database } = server
    await makeReady(database, arm.testId)
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    await reduceAndKeep(server, arm.testId)
    await recordJudgement(database, BY, arm.testId, {
      validity: 'valid',
      cause: 'none',
      place: '',
      mode: '',
      note: '',
      answers: ANSWERED,
    })
    const summary = async () => (await campaignPage(database, arm.slug)).articles[0]!.revisions[0]!.tests[0]!
    const row = await named('limit', 'name', 'Service deflection')
    await change('limit', row, { source: 'another word' })
    expect((await summary()).reopened).toEqual([])
    const { step } = await change('limit', await named('limit', 'name', 'Service deflection'), {
      entered: { value: 95, unit: 'mm' },
    })
    expect((await summary()).reopened).toEqual([row.id])
    expect((await summary()).stages.find(s => s.stage === 'judge')).toMatchObject({
      state: 'open',
      words: '1 reopened: a limit changed',
    })
    expect((await benchPage(database, '2026-11-24')).unsettled[0]).toMatchObject({ verdict: 'reopened' })
    await undoStep(database, BY, step)
    expect((await summary()).reopened).toEqual([])
    expect(
      (await refused(write('limit', { removes: [await named('limit', 'name', 'Service deflection')] }))).message,
    ).toContain('withdraw it instead')
    await change('limit', await named('limit', 'name', 'Service deflection'), { state: 'withdrawn' })
    const judged = await recordJudgement(database, BY, arm.testId, {
      validity: 'valid',
      cause: 'none',
      place: '',
      mode: '',
      note: '',
      answers: ANSWERED,
    })
    expect(judged.verdicts.map(v => v.limitId)).not.toContain(row.id)

    // Deciding a revision, with its test and predictions, is one step, too.
    const { testId, step: decided } = await acceptCandidate(database, BY, arm.testId, {
      candidateId: adviseRevision((await sizingInputOf(database.read, arm.testId)).input).candidates[0]!.id,
      label: 'C',
      from: 'test',
      reasons: '',
      weights: {},
    })
    expect((await testPage(database, testId)).predictions.length).toBeGreaterThan(0)
    await undoStep(database, BY, decided)
    expect((await campaignPage(database, arm.slug)).articles[0]!.revisions.map(r => r.label)).toEqual(['B'])
  })
})

describe('lessons', () => {
  it('fire on open plans, block the run until answered, and count', async () => {
    const { database } = server
    await write('lesson', { creates: [lesson] })
    const [fired] = await firingsOf(database.read, arm.testId)
    expect(fired).toMatchObject({ answer: null, reasons: ['Static load', 'feature “bonded”'] })
    await makeReady(database, arm.testId, { sign: false })
    expect(await refused(database.write(db => assertReady(db, arm.testId)))).toMatchObject({
      code: 'not-ready',
      message: expect.stringContaining('Clamps pull') as string,
    })
    expect(
      await refused(markReady(database, BY, arm.testId, { key: `lesson:${fired!.id}`, state: 'done', reason: '' })),
    ).toMatchObject({ code: 'settled' })
    expect(await refused(change('firing', fired!, { answer: 'risk-accepted' }))).toMatchObject({
      code: 'missing-reason',
      place: { path: 'reason' },
    })
    await change('firing', fired!, { answer: 'risk-accepted', reason: 'Ilka Torv' })
    await signAll(database, arm.testId)
    await database.write(db => assertReady(db, arm.testId))
    const row = await named('lesson', 'title', 'Clamps pull')
    expect(row).toMatchObject({ fired: 1, riskAccepted: 1, unanswered: 0 })
    expect((await refused(write('lesson', { removes: [row] }))).code).toBe('in-use')
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    expect(
      (await refused(change('firing', (await firingsOf(database.read, arm.testId))[0]!, { answer: 'applied' }))).code,
    ).toBe('plan-fixed')
    await reduceAndKeep(server, arm.testId)
    await recordJudgement(database, BY, arm.testId, {
      validity: 'valid',
      cause: 'fixture',
      place: '',
      mode: '',
      note: '',
      answers: ANSWERED,
    })
    expect((await firingsOfLesson(database.read, row.id))[0]).toMatchObject({
      answer: 'risk-accepted',
      cause: 'fixture',
    })
    // A plan that is made later hears of it as well.
    const { id } = await createTest(database, BY, arm.revisionId, { title: 'Once more', plan: null })
    expect((await named('lesson', 'title', 'Clamps pull'))['fired']).toBe(2)
    // One whose triggers no longer fit falls silent where it was not answered.
    await change('lesson', await named('lesson', 'title', 'Clamps pull'), { features: ['welded'] })
    expect(await firingsOf(database.read, id)).toEqual([])
  })
})

describe('constants', () => {
  it(
    'a measured one takes a supplier’s place: what was sized from it is listed with how it moves, and follows ' +
      'by decision',
    async () => {
      const { database } = server
      await write('constant', { creates: laminate })
      const constant = await named('constant', 'property', 'Modulus')
      await change('revision', await named('revision', 'label', 'B'), { constants: { modulus: constant.id } })
      const replacement = { ...laminate[0]!, entered: { value: 55.1, unit: 'GPa' }, origin: 'measured', n: 6 }
      const { moved } = await movedBy(database.read, constant.id, replacement)
      const stiffness = moved[0]!.tests[0]!.results.find(r => r.quantity === 'stiffness')!
      // A linear beam: stiffness goes with the modulus.
      expect(stiffness.after / stiffness.before).toBeCloseTo(55.1 / 58, 12)
      expect(
        await refused(movedBy(database.read, constant.id, { ...replacement, entered: { value: 1, unit: 'mm' } })),
      ).toMatchObject({ code: 'unit-dimension' })

      const { step } = await replaceConstant(database, BY, constant.id, {
        replacement,
        version: constant.version,
        recompute: [],
      })
      expect((await rows('constant')).find(r => r.id === constant.id)).toMatchObject({
        fixed: true,
        usedBy: [{ name: 'Hanger arm B' }],
      })
      expect(
        (
          await refused(
            change(
              'constant',
              (await rows('constant')).find(r => r.id === constant.id)!,
              { source: 'x' },
            ),
          )
        ).code,
      ).toBe('replaced')
      const sized = await sizeAnew(database, BY, constant.id, [arm.revisionId])
      expect((await named('revision', 'label', 'B'))['properties']).toMatchObject({
        modulus: { value: 55.1, unit: 'GPa' },
      })
      await undoStep(database, BY, sized.step)
      await undoStep(database, BY, step)
      expect(await rows('constant')).toHaveLength(1)
      expect((await named('revision', 'label', 'B'))['properties']).toMatchObject({
        modulus: { value: 58, unit: 'GPa' },
      })
    },
  )
})

describe('predictions', () => {
  it(
    'of a revision lock at the first sample of its test, with place, mode and curve, and stand ' + 'from then on',
    async () => {
      const { database } = server
      const [value] = (
        await write('prediction', {
          creates: [
            {
              revisionId: arm.revisionId,
              quantity: 'deflectionAtDesign',
              entered: { value: 84, unit: 'mm' },
              band: { value: 6, unit: '%' },
              source: 'Shell model',
              method: 'simulation',
              place: 'Tip',
            },
            {
              revisionId: arm.revisionId,
              quantity: 'loadDeflection',
              curve: { x: [0, 0.09], y: [0, 3200] },
              source: 'Shell model',
              method: 'simulation',
            },
          ],
        })
      ).ids
      await makeReady(database, arm.testId)
      await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
      const page = await testPage(database, arm.testId)
      expect(page.predictions.find(p => p.method === 'simulation')).toMatchObject({
        testId: arm.testId,
        copyOfId: value,
        place: 'Tip',
        value: 0.084,
      })
      expect(page.curves.map(c => c.method).sort()).toEqual(['calculation', 'simulation'])
      expect(page.predictions.every(p => p.lockedAt)).toBe(true)
      const row = (await rows('prediction')).find(r => r.id === value)!
      expect((await refused(change('prediction', row, { entered: { value: 89, unit: 'mm' } }))).code).toBe('locked')
      // What is said afterwards is not of this test.
      await write('prediction', {
        creates: [
          {
            revisionId: arm.revisionId,
            quantity: 'stiffness',
            entered: { value: 36, unit: 'N/mm' },
            source: 'Hindsight',
            method: 'hand',
          },
        ],
      })
      expect((await testPage(database, arm.testId)).predictions.map(p => p.source)).not.toContain('Hindsight')
    },
  )
})

describe('tasks', () => {
  const frame = { start: '2026-03-02', due: '2026-03-20', funds: null, workdays: [1, 2, 3, 4, 5], holidays: [] }
  it('wait for one another by name: no circle, no unknown one, no name taken away from those that wait', async () => {
    await write('task', {
      creates: [
        { name: 'Build', days: 3 },
        { name: 'Gauges; wires', days: 2, after: ['Build'] },
      ],
    })
    const [build, gauges] = await rows('task')
    expect(await refused(change('task', build!, { after: ['Gauges; wires'] }))).toMatchObject({
      code: 'circle',
      message: 'These would wait for one another: Build → Gauges; wires → Build.',
      place: { path: 'after' },
    })
    expect(await refused(change('task', gauges!, { after: ['Paint'] }))).toMatchObject({ code: 'unknown-reference' })
    expect((await refused(change('task', build!, { name: 'Make' }))).message).toContain('waits for it by this name')
    expect((await refused(write('task', { removes: [build!] }))).message).toContain('“Gauges; wires” waits for it')
    expect(await refused(change('task', build!, { low: 5 }))).toMatchObject({
      code: 'setting-range',
      place: { path: 'low' },
    })
  })

  it('become a calendar file: all-day events that end on the day after, signs escaped, long lines folded', async () => {
    await write('task', {
      creates: [
        { name: 'Build', days: 3, resource: 'Silje' },
        { name: `Gauges; wires ${'and more wires '.repeat(6)}`, days: 2, after: ['Build'] },
      ],
    })
    const text = iCalendar(
      { slug: 'tarn', title: 'Tarn, carrier' },
      frame,
      await rows('task'),
      new Date('2026-03-01T10:00:00Z'),
    )
    expect(text).toContain('X-WR-CALNAME:Tarn\\, carrier\r\n')
    const [, build] = text.split('BEGIN:VEVENT').map(e => e.split('\r\n'))
    expect(build).toEqual(
      expect.arrayContaining([
        'DTSTART;VALUE=DATE:20260302',
        'DTEND;VALUE=DATE:20260305',
        'SUMMARY:Build',
        'DESCRIPTION:By Silje',
      ]),
    )
    expect(text).toContain('SUMMARY:Gauges\\; wires')
    expect(text.split('\r\n').every(l => Buffer.byteLength(l) <= 75)).toBe(true)
  })
})

describe('sensors', () => {
  it('that were driven beyond their range turn up in the next checklist, until calibrated again', async () => {
    const { database } = server
    await makeReady(database, arm.testId)
    await importBytes(server, arm.testId, demoFile('hanger-arm-b.csv'))
    const cell = await named('sensor', 'name', 'Load cell LC-04')
    await change('sensor', cell, { fullScale: { value: 5, unit: 'kN' } })
    const { id } = await createTest(database, BY, arm.revisionId, { title: 'Again', plan: arm.plan })
    const item = async () => (await readyItemsOf(database.read, id, '2026-01-01')).find(i => i.key === 'beyond:load')
    expect(await item()).toMatchObject({
      automatic: false,
      text: expect.stringMatching(/Load cell LC-04: read 11\d % of its range/) as string,
    })
    expect((await overRangesOf(database.read))[cell.id]!.share).toBeGreaterThan(1)
    await change('sensor', await named('sensor', 'name', 'Load cell LC-04'), { calibratedOn: '2099-01-01' })
    expect(await item()).toBeUndefined()
    expect(
      (await refused(write('sensor', { removes: [await named('sensor', 'name', 'Load cell LC-04')] }))).message,
    ).toContain('mark it as retired instead')
  })

  it('keep their certificate by its hash; taken away it can be brought back', async () => {
    const { database, originals } = server
    const cell = await named('sensor', 'name', 'Load cell LC-04')
    const bytes = new TextEncoder().encode('%PDF-1.7 certificate')
    const sha256 = await originals.keep(bytes)
    const made = await attach(
      database,
      BY,
      { entity: 'sensor', id: cell.id },
      { sha256, size: bytes.length, name: 'certificate.pdf', head: bytes },
    )
    expect(made).toMatchObject({ mime: 'application/pdf', sha256 })
    const { step } = await removeAttachment(database, BY, made.id)
    expect(await attachmentsOf(database.read, 'sensor', cell.id)).toEqual([])
    await undoStep(database, BY, step)
    expect(await attachmentsOf(database.read, 'sensor', cell.id)).toHaveLength(1)
    expect(
      (await refused(attach(database, BY, { entity: 'sensor', id: 999 }, { sha256, size: 1, name: 'x', head: bytes })))
        .code,
    ).toBe('not-found')
  })
})
