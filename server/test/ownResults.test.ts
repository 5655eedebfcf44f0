import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { declareOwn } from '../db/articles/own'
import { nameGauge } from '../db/records/gauges'
import { mendChannel } from '../db/records/mending'
import { plannedChannels } from '../db/records/datasets'
import { storedRecord } from '../db/records/onMainClock'
import { recordPage } from '../db/records/records'
import { reductionInput } from '../db/results/reductions'
import { recordJudgement } from '../db/results/judgements'
import { writeRows } from '../db/registers/service'
import { testPage } from '../db/tests/tests'
import { article, channel, test } from '../db/schema'
import { ANSWERED, BY, importBytes, readyServer, reduceAndKeep, refused, type TestServer } from './campaign'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const CELLS = ['LC1', 'LC2', 'LC3', 'LC4', 'LC5', 'LC6', 'LC7']
/** Steps of 15 s to 3.5 kN and back, five rows a second, as a crew’s logger would write them, with a little noise. */
function beam(): Uint8Array {
  const levels = [0, 0.7, 1.4, 2.1, 2.8, 3.5, 0]
  let seed = 7
  const noise = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 0.002
  const rows = Array.from({ length: levels.length * 20 * 5 }, (_, i) => {
    const t = i / 5
    const [k, into] = [Math.floor(t / 20), t % 20]
    const load = into < 15 ? levels[k]! : levels[k]! + ((levels[k + 1] ?? 0) - levels[k]!) * ((into - 15) / 5)
    const cells = CELLS.map(() => (load / 7 + noise() / 7).toFixed(5))
    const spots = [4 * load, load].map(v => (v + noise()).toFixed(4))
    return [t.toFixed(1), ...cells, (12 * load + noise()).toFixed(4), (310 * load + 5 + noise()).toFixed(2), ...spots]
  })
  const head = ['Time [s]', ...CELLS.map(c => `${c} [kN]`), 'Tip [mm]', 'SG4 [µε]', 'LL1 [mm]', 'LL5 [mm]']
  return new TextEncoder().encode([head, ...rows].map(r => r.join(',')).join('\n') + '\n')
}
const MAP = {
  t: { column: 'Time [s]', unit: 's' },
  load: { column: 'LC1 [kN]', unit: 'kN' },
  deflection: { column: 'Tip [mm]', unit: 'mm' },
}
const DERIVED = { width: 100, from: 0, to: 100 }

describe('a stranger’s beam on seven cells', () => {
  it('the sum of the cells becomes the load, a strain a limit, a rotation a result with its U', async () => {
    const { read } = server.database
    const { datasetId } = await importBytes(server, testId, beam(), { channels: MAP })
    const page = await recordPage(read, datasetId)
    expect(page.channels.map(c => c.symbol)).toEqual([
      ...CELLS.map(c => `${c}_kN`),
      'Tip_mm',
      'SG4',
      'LL1_mm',
      'LL5_mm',
    ])
    const sum = (await server.run('derive', {
      ...DERIVED,
      datasetId,
      // The first of them is called by the role that it has now, and that the sum is to have.
      expression: ['load', ...CELLS.slice(1).map(c => `${c}_kN`)].join(' + '),
      keep: { name: 'Total', by: BY },
    })) as { id: number }
    await mendChannel(server.database, BY, sum.id, { role: 'load' })
    const strains = (await server.run('derive', {
      ...DERIVED,
      datasetId,
      expression: 'mean(SG4, SG4)',
      keep: { name: 'Mean strain', by: BY },
    })) as { id: number }
    const mean = (await recordPage(read, datasetId)).channels.find(c => c.id === strains.id)!
    // A mean of strains is read in microstrain, as those are.
    expect(mean).toMatchObject({ isStrain: true, unit: '1' })

    const [arm] = await read.select().from(article)
    await declareOwn(server.database, BY, arm!.id, [
      {
        name: 'Strain at 3 kN',
        channel: 'SG4',
        at: { load: { value: 3, unit: 'kN' } },
        kind: 'strain',
        limited: 'atMost',
      },
      { name: 'Rotation', expression: '(LL1_mm - LL5_mm) / 1.27 m', at: 'peak', kind: 'ratio' },
      { name: 'Of another logger', channel: 'CAM7', at: 'peak', kind: 'length' },
    ])
    const payload = await reductionInput(read, testId, null)
    const proposed = (await server.run('propose', payload)) as { own: { name: string }[] }
    // What this record has no channels for is not asked of it.
    expect(proposed.own.map(o => o.name)).toEqual(['Strain at 3 kN', 'Rotation'])

    const sensors = await read.query.sensor.findMany()
    const cell = sensors.find(s => s.kind === 'force')!
    const spot = sensors.find(s => s.kind === 'length')!
    for (const c of CELLS)
      await server.database.write(db =>
        db
          .update(channel)
          .set({ sensorId: cell.id })
          .where(eq(channel.name, `${c} [kN]`)),
      )
    for (const name of ['LL1 [mm]', 'LL5 [mm]'])
      await server.database.write(db => db.update(channel).set({ sensorId: spot.id }).where(eq(channel.name, name)))
    const kept = await reduceAndKeep(server, testId)
    const { results } = kept.output
    expect(results['maxLoad']!.value! / 3500).toBeCloseTo(1, 2)
    // Seven cells of one certificate: what one may be off by, times √7.
    const parts = results['maxLoad']!.parts!.filter(p => p.name.endsWith(': gain'))
    expect(parts.map(p => p.name).sort()).toEqual(CELLS.map(c => `${c}_kN: gain`))
    expect(results['Strain at 3 kN']!.value! / (3 * 310e-6)).toBeCloseTo(1, 2)
    expect(results['Rotation']!.value! / ((3 * 3.5e-3) / 1.27)).toBeCloseTo(1, 2)
    expect(results['Rotation']!.u).toBeGreaterThan(0)
    expect(kept.output.own).toMatchObject({ Rotation: { kind: 'ratio' } })
    await server.database.write(db => db.update(channel).set({ sensorId: null }).where(eq(channel.name, 'LC4 [kN]')))
    const without = (await reduceAndKeep(server, testId)).output
    expect(without.results['maxLoad']!.u).toBeUndefined()
    expect(without.warnings).toContainEqual({
      code: 'no-sensor',
      message: expect.stringContaining('load: no sensor is named for LC4_kN') as string,
    })

    const add = { articleId: arm!.id, quantity: 'Strain at 3 kN', name: 'Skin strain', comparator: 'atMost' }
    const limit = { campaignId: arm!.campaignId, creates: [{ ...add, entered: { value: 950, unit: 'µε' } }] }
    await writeRows(server.database, BY, 'limit', { ...limit, changes: [], removes: [] })
    await recordJudgement(server.database, BY, testId, {
      ...{ validity: 'valid', cause: 'none', place: '', mode: '', note: '' },
      answers: ANSWERED,
    })
    const { judgement, limits } = await testPage(server.database, testId)
    const skin = limits.find(l => l.name === 'Skin strain')!
    // 930 µε against 950, and nobody said which gauge: without U nothing is passed.
    expect(judgement!.verdicts.find(v => v.limitId === skin.id)).toMatchObject({ verdict: 'undecided' })
    expect(await refused(declareOwn(server.database, BY, arm!.id, []))).toMatchObject({ code: 'rests-on-it' })
  })

  it('what the plan derives is worked out of any record that has what it reads, and asked of no file', async () => {
    const { read } = server.database
    const { datasetId } = await importBytes(server, testId, beam(), { channels: MAP })
    const derivedIn = async () => (await storedRecord(read, datasetId, '')).derived
    expect(await derivedIn()).toEqual([])
    const [planned] = await read.select({ plan: test.plan }).from(test).where(eq(test.id, testId))
    const plan = planned!.plan as { channels: object[] }
    const [further, other] = [
      { role: 'twice', label: 'Twice', kind: 'length', sensorId: null, expression: '2 * deflection' },
      { role: 'far', label: 'Far', kind: 'length', sensorId: null, expression: '2 * CAM7' },
    ]
    const channels = [...plan.channels, further, other]
    await server.database.write(db =>
      db
        .update(test)
        .set({ plan: { ...plan, channels } })
        .where(eq(test.id, testId)),
    )
    expect(await derivedIn()).toEqual([{ role: 'twice', expression: '2 * deflection', used: true }])
    expect((await plannedChannels(read, testId)).map(p => p.role)).not.toContain('twice')
    const { tables } = (await reduceAndKeep(server, testId)).output
    const means = (role: string) => tables['steps']!.columns[`${role}Mean`] as number[]
    expect(means('twice').every((v, i) => Math.abs(v - 2 * means('deflection')[i]!) < 1e-9)).toBe(true)
  })

  it('an own result is refused where it is no result of one’s own', async () => {
    const [arm] = await server.database.read.select().from(article)
    const says = async (own: object) => {
      const e = await refused(declareOwn(server.database, BY, arm!.id, [own]))
      return [e.code, e.place.path]
    }
    expect(await says({ name: 'maxLoad', channel: 'a', at: 'peak', kind: 'force' })).toEqual([
      'setting-range',
      'own.0.name',
    ])
    expect(await says({ name: 'x', channel: 'a', at: 'noon', kind: 'force' })).toEqual(['setting-range', 'own.0.at'])
    expect(await says({ name: 'x', channel: 'a', at: 'peak', kind: 'parsnips' })).toEqual([
      'setting-range',
      'own.0.kind',
    ])
    expect((await refused(declareOwn(server.database, BY, 99_999, []))).code).toBe('not-found')
    expect((await refused(nameGauge(server.database, BY, 99_999, { role: 'load', sensorId: null }))).code).toBe(
      'unknown-channel',
    )
  })
})
