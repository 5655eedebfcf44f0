import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { attach } from '../db/tests/attachments'
import {
  beginPlanVersion,
  planVersionOf,
  planVersionsOf,
  plansToStartFrom,
  releasePlan,
  savePlan,
} from '../db/tests/plans'
import { markReady, readyItemsOf } from '../db/tests/readiness'
import { createTest, testPage } from '../db/tests/tests'
import { armWithPlan, BY, makeReady, refused, signAll, type TestServer } from './campaign'
import { temporaryDatabase } from './database'

let server: TestServer
let arm: Awaited<ReturnType<typeof armWithPlan>>
beforeEach(async () => {
  server = await temporaryDatabase()
  arm = await armWithPlan(server.database)
})
afterEach(() => server.close())

const item = async (key: string) =>
  (await readyItemsOf(server.database.read, arm.testId, '2026-01-01')).find(i => i.key === key)

describe('a plan', () => {
  it('is released once nothing stands against it, and then changes only by a new version with a reason', async () => {
    const { database } = server
    await savePlan(database, BY, arm.testId, {
      ...arm.plan,
      hazards: {},
      capacities: { actuator: { value: 5, unit: 'kN' } },
    })
    expect(await refused(releasePlan(database, BY, arm.testId))).toMatchObject({
      code: 'not-releasable',
      place: { path: 'rungs.8.target' },
    })
    await savePlan(database, BY, arm.testId, { ...arm.plan, hazards: {} })
    expect(await refused(releasePlan(database, BY, arm.testId))).toMatchObject({
      code: 'not-releasable',
      place: { path: 'hazards.spring' },
    })
    await savePlan(database, BY, arm.testId, arm.plan)
    await releasePlan(database, BY, arm.testId)
    expect((await refused(savePlan(database, BY, arm.testId, arm.plan))).code).toBe('plan-released')
    expect((await refused(beginPlanVersion(database, BY, arm.testId, ' '))).code).toBe('missing-reason')
    await beginPlanVersion(database, BY, arm.testId, 'Clamp is late')
    await savePlan(database, BY, arm.testId, { ...arm.plan, predictionBand: 0.2 })
    await releasePlan(database, BY, arm.testId)
    expect((await planVersionsOf(database.read, arm.testId)).map(v => [v.number, v.reason, v.by])).toEqual([
      [2, 'Clamp is late', BY],
      [1, '', BY],
    ])
    expect((await planVersionOf(database.read, arm.testId, 1)).plan).toEqual(arm.plan)
    expect((await testPage(database, arm.testId)).stages[0]).toMatchObject({
      words: '10 rungs, version 2',
      state: 'done',
    })
  })

  it('that two people save is kept from the first; the later is told', async () => {
    const { database } = server
    const { edit } = await savePlan(database, 'Ada', arm.testId, arm.plan, 0)
    expect((await refused(savePlan(database, 'Bo', arm.testId, arm.plan, 0))).code).toBe('changed-meanwhile')
    expect((await refused(releasePlan(database, 'Bo', arm.testId, 0))).code).toBe('changed-meanwhile')
    await savePlan(database, 'Bo', arm.testId, arm.plan, edit)
  })

  it('cannot have a sensor that another has on the same day', async () => {
    const { database } = server
    for (const plannedOn of ['2027-01-12', '2027-01-13'])
      await createTest(database, BY, arm.revisionId, { title: `On ${plannedOn}`, plan: arm.plan, plannedOn })
    const { id } = await createTest(database, BY, arm.revisionId, {
      title: 'Same day',
      plan: arm.plan,
      plannedOn: '2027-01-13',
    })
    expect(await refused(releasePlan(database, BY, id))).toMatchObject({
      code: 'not-releasable',
      message: expect.stringContaining('On 2027-01-13') as string,
      place: { path: 'channels.0.sensorId' },
    })
  })

  it('can start from an earlier one of the same kind', async () => {
    const { id } = await createTest(server.database, BY, arm.revisionId, { title: 'Again', plan: null })
    expect((await plansToStartFrom(server.database.read, id)).map(p => [p.id, p.loading, p.plan])).toEqual([
      [arm.testId, 'points', arm.plan],
    ])
  })
})

describe('the checklist', () => {
  it('judges what is read at a gauge: a bad reading is red until it is read well or overridden', async () => {
    const { database } = server
    const read = (key: string, reading: string) =>
      markReady(database, BY, arm.testId, { key, state: 'done', reason: '', reading })
    expect(await read('gauge:strainRoot:shunt', '1702 µε')).toMatchObject({
      state: 'failed',
      reading: { good: false, words: '1702\u202fµε, 2.4 % off' },
    })
    expect(await read('gauge:strainRoot:shunt', '1,741e-3')).toMatchObject({ state: 'failed' })
    expect(await read('gauge:strainRoot:shunt', '1741')).toMatchObject({ state: 'done', reading: { good: true } })
    expect(await read('gauge:strainRoot:insulation', '60')).toMatchObject({ state: 'failed' })
    await markReady(database, BY, arm.testId, {
      key: 'gauge:strainRoot:insulation',
      state: 'overridden',
      reason: 'Damp hall, drifts slowly',
    })
    expect(await item('gauge:strainRoot:insulation')).toMatchObject({ state: 'overridden', by: BY })
    expect((await refused(read('gauge:strainRoot:zero', ' '))).code).toBe('needs-reading')
    expect((await refused(read('gauge:strainRoot:zero', '3 mm'))).code).toBe('unit-dimension')
  })

  it('is not got past by a draft; pictures settle themselves; signing comes last, by role', async () => {
    const { database, originals } = server
    expect(
      (await refused(markReady(database, BY, arm.testId, { key: 'released', state: 'overridden', reason: 'no time' })))
        .code,
    ).toBe('settled')
    expect(
      (await refused(markReady(database, BY, arm.testId, { key: 'sign:safety', state: 'done', reason: '' }))).code,
    ).toBe('not-last')
    const bytes = new TextEncoder().encode('%PDF a picture')
    await attach(
      database,
      BY,
      { entity: 'test', id: arm.testId, tag: 'support' },
      { sha256: await originals.keep(bytes), size: bytes.length, name: 'props.pdf', head: bytes },
    )
    expect(await item('photo:support')).toMatchObject({ state: 'done' })
    await makeReady(database, arm.testId, { sign: false })
    await arm.add('person', [{ name: 'Silje', role: 'safety' }])
    expect(
      await refused(markReady(database, BY, arm.testId, { key: 'sign:safety', state: 'done', reason: '' })),
    ).toMatchObject({ code: 'wrong-role', message: expect.stringContaining('Silje') as string })
    await markReady(database, 'Silje', arm.testId, { key: 'sign:safety', state: 'done', reason: '' })
    await signAll(database, arm.testId)
    expect((await testPage(database, arm.testId)).stages[1]).toMatchObject({
      words: expect.stringContaining('overridden') as string,
    })
    // What was signed was the first version.
    await beginPlanVersion(database, BY, arm.testId, 'Another hook')
    expect(await item('sign:safety')).toMatchObject({ state: 'open' })
  })
})
