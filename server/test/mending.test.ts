import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { beginReread, finishReread, type ReadAgain } from '../db/records/reread'
import { mendChannel, type Mend } from '../db/records/mending'
import { nameGauge } from '../db/records/gauges'
import { addPair, recordPage } from '../db/records/records'
import { readSamples } from '../db/records/samples'
import { dataset, reduction } from '../db/schema'
import type { NewImport } from '../db/records/datasets'
import { takeAnew } from '../jobs/anew'
import { BY, demoFile, importBytes, readyServer, reduceAndKeep, refused, type TestServer } from './campaign'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const jobs = () => ({
  call: server.run,
  start: async (kind: 'health', payload: object) => {
    await server.run(kind, payload as never)
    return 0
  },
})
const again = (datasetId: number) => takeAnew({ database: server.database, jobs: jobs() as never }, BY, datasetId)
const pageOf = (datasetId: number) => recordPage(server.database.read, datasetId)
const channelOf = async (datasetId: number, name: string) =>
  (await pageOf(datasetId)).channels.find(c => c.name.startsWith(name))!
const mend = async (datasetId: number, name: string, said: Mend) => {
  await mendChannel(server.database, BY, (await channelOf(datasetId, name)).id, said)
  return again(datasetId)
}
const kept = async () =>
  (await server.database.read.select().from(reduction).where(eq(reduction.testId, testId))).at(-1)!

const ARM = {
  t: { column: 'Zeit', unit: 's' },
  load: { column: 'Last', unit: 'kN' },
  deflection: { column: 'Weg', unit: 'mm' },
  strainRoot: { column: 'DMS', unit: 'µε' },
}
/** The demo's record of B under names of our own. */
function arm(): Uint8Array {
  const [, , , , ...rows] = new TextDecoder().decode(demoFile('hanger-arm-b.csv')).trim().split('\n')
  const own = rows.map(r => r.split(';').slice(0, 5).join(';'))
  return new TextEncoder().encode(['Zeit;Last;Weg;DMS;Rahmen', ...own].join('\n') + '\n')
}
const imported = (change: Partial<NewImport>) => importBytes(server, testId, arm(), { channels: ARM, ...change })

describe('what was said wrongly of a channel', () => {
  it.each([
    ['its unit', { ...ARM, load: { column: 'Last', unit: 'N' } }, 'Last', { unit: 'kN' }],
    ['its sign', { ...ARM, deflection: { column: 'Weg', unit: 'mm', scale: -1 } }, 'Weg', { scale: 1 }],
  ] as const)('is mended: %s; the result is that of a file read rightly', async (_, channels, column, said) => {
    await imported({})
    const right = await reduceAndKeep(server, testId)
    const { datasetId } = await imported({ channels })
    const wrong = await reduceAndKeep(server, testId, right.settings)
    expect(wrong.outputSha256).not.toBe(right.outputSha256)
    const before = await readSamples(server.database.read, (await channelOf(datasetId, column)).id)
    expect((await mend(datasetId, column, said)).refused).toBeNull()
    const now = await kept()
    expect(now).toMatchObject({ supersedesId: wrong.id, outputSha256: right.outputSha256 })
    expect(now.inputs![0]!.channels).toEqual(ARM)
    const after = await readSamples(server.database.read, (await channelOf(datasetId, column)).id)
    expect(after[200]! / before[200]!).toBeCloseTo('unit' in said ? 1000 : -1, 9)
    const { warnings } = (await pageOf(datasetId)).records[0]!
    expect(warnings.at(-1)).toMatchObject({ code: 'mended', message: expect.stringContaining(BY) as string })
  })

  it('is mended: its role; the column that had it gives it up, expressions keep what they read', async () => {
    await imported({})
    const right = await reduceAndKeep(server, testId)
    const { datasetId } = await imported({ channels: { ...ARM, deflection: { column: 'Rahmen', unit: 'mm' } } })
    const derived = { datasetId, width: 100, from: 0, to: 40 }
    await server.run('derive', { ...derived, expression: '2*Weg', keep: { name: 'twice', by: BY } })
    await reduceAndKeep(server, testId, right.settings)
    const weg = await channelOf(datasetId, 'Weg')
    expect(weg).toMatchObject({ used: false, symbol: 'Weg' })
    // The file says no unit of it, so it is asked for.
    const asked = mendChannel(server.database, BY, weg.id, { role: 'deflection' })
    expect(await refused(asked)).toMatchObject({ code: 'missing-setting', place: { path: 'unit' } })
    await mend(datasetId, 'Weg', { role: 'deflection', unit: 'mm' })
    expect((await kept()).outputSha256).toBe(right.outputSha256)
    expect(await channelOf(datasetId, 'Rahmen')).toMatchObject({ used: false, role: 'Rahmen', symbol: 'Rahmen' })
    const twice = await readSamples(server.database.read, (await channelOf(datasetId, 'twice')).id)
    const once = await readSamples(server.database.read, (await channelOf(datasetId, 'Weg')).id)
    expect(twice[300]).toBeCloseTo(2 * once[300]!, 12)
  })

  it('is refused where it cannot be', async () => {
    const { datasetId } = await imported({})
    const load = await channelOf(datasetId, 'Last')
    const says = async (said: Mend, id = load.id) => (await refused(mendChannel(server.database, BY, id, said))).code
    expect(await says({ unit: 'mm' })).toBe('unit-dimension')
    expect(await says({ unit: 'parsnips' })).toBe('unit-unknown')
    expect(await says({ scale: 0 })).toBe('setting-range')
    expect(await says({ role: 't' })).toBe('setting-range')
    expect(await says({ role: 'deflection' })).toBe('unit-dimension')
    expect(await says({ unit: 'N' }, 999_999)).toBe('not-found')
    await server.run('derive', {
      ...{ datasetId, width: 100, from: 0, to: 40 },
      expression: 'Last/2',
      keep: { name: 'half', by: BY },
    })
    expect(await says({ unit: 'N' }, (await channelOf(datasetId, 'half')).id)).toBe('setting-range')
  })

  it('a sensor named late takes the kept result anew', async () => {
    await imported({})
    const first = await reduceAndKeep(server, testId)
    await nameGauge(server.database, BY, testId, { role: 'deflection', sensorId: null })
    await again(first.datasetId)
    expect(await kept()).toMatchObject({ supersedesId: first.id })
  })
})

describe('a file that is read again', () => {
  const readAgain = async (datasetId: number, said: ReadAgain) => {
    const made = await beginReread(server.database, BY, datasetId, said)
    const roles = (await pageOf(datasetId)).channels.filter(c => c.used).map(c => c.role)
    await server.run('import', {
      ...{ datasetId: made.id, sha256: made.sha256!, fileName: made.name, family: 'static', testId, by: BY },
      ...{
        channels: made.channelMap!,
        reading: made.reading!,
        sensorOf: Object.fromEntries(roles.map(r => [r, null])),
      },
      ...{ end: 'ladder done', replaces: datasetId },
    })
    await finishReread(server.database, datasetId, made.id)
    return again(datasetId)
  }
  /** Every tenth stamp stands twice. */
  function stuttering(): Uint8Array {
    const [head, ...rows] = new TextDecoder().decode(arm()).trim().split('\n')
    return new TextEncoder().encode([head, ...rows.flatMap((r, i) => (i % 10 === 5 ? [r, r] : [r]))].join('\n') + '\n')
  }

  it('drops stamps that repeat, and keeps sensors, pairs and derived channels', async () => {
    const plain = (await imported({})).datasetId
    const right = await reduceAndKeep(server, testId)
    const file = stuttering()
    expect(await refused(importBytes(server, testId, file, { channels: ARM }))).toMatchObject({
      code: 'time-order',
      place: { path: 'reading.repeats', row: 8 },
    })
    const { datasetId } = await importBytes(server, testId, file, { channels: ARM, reading: { repeats: 'nudge' } })
    const rowsOf = async (id: number) => (await pageOf(id)).records[0]!.rows
    expect(await rowsOf(datasetId)).toBeGreaterThan(await rowsOf(plain))
    await reduceAndKeep(server, testId, right.settings)
    const [weg, frame] = [await channelOf(datasetId, 'Weg'), await channelOf(datasetId, 'Rahmen')]
    await mend(datasetId, 'Rahmen', { unit: 'mm' })
    await addPair(server.database, BY, datasetId, { a: weg.id, b: frame.id, tolerance: 1 })
    const { id } = (await server.run('derive', {
      ...{ datasetId, width: 100, from: 0, to: 40 },
      expression: 'Weg - Rahmen',
      keep: { name: 'own', by: BY },
    })) as { id: number }
    await readAgain(datasetId, { reading: { repeats: 'drop' } })
    const page = await pageOf(datasetId)
    expect(page.records[0]!.rows).toBe(await rowsOf(plain))
    expect(page.records[0]!.warnings).toContainEqual({
      code: 'stamps-repeated',
      message: expect.stringContaining('dropped') as string,
    })
    // What was said of a channel since is still said.
    expect(page.records[0]!.warnings.map(w => w.code)).toContain('mended')
    expect((await kept()).outputSha256).toBe(right.outputSha256)
    expect(page.pairs).toMatchObject([{ a: (await channelOf(datasetId, 'Weg')).id }])
    const samples = await readSamples(server.database.read, id)
    expect(samples.length).toBe(page.records[0]!.rows)
    expect(await server.database.read.select().from(dataset).where(eq(dataset.status, 'importing'))).toEqual([])
  })

  it('takes another clock, or a rate, and one piece of a clock that was begun anew', async () => {
    const { datasetId } = await imported({})
    const span = async () => {
      const page = await pageOf(datasetId)
      return page.to - page.from
    }
    const seconds = await span()
    await readAgain(datasetId, { reading: {}, clock: { column: 'Zeit', unit: 'ms' } })
    expect(await span()).toBeCloseTo(seconds / 1000, 9)
    const { rows } = (await pageOf(datasetId)).records[0]!
    await readAgain(datasetId, { reading: { rate: 100 }, clock: null })
    expect(await span()).toBeCloseTo((rows - 1) / 100, 9)
    const [head, ...lines] = new TextDecoder().decode(arm()).trim().split('\n')
    const twice = new TextEncoder().encode([head, ...lines.slice(0, 50), ...lines].join('\n') + '\n')
    expect(await refused(importBytes(server, testId, twice, { channels: ARM }))).toMatchObject({
      place: { path: 'reading.jumps', row: 52 },
    })
    const cut = await importBytes(server, testId, twice, { channels: ARM, reading: { jumps: 'longest' } })
    expect((await pageOf(cut.datasetId)).records[0]).toMatchObject({ rows: lines.length })
  })
})
