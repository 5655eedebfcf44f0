import { isHypometError, type HypometError } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { moveClock } from '../db/records/clocks'
import type { NewImport } from '../db/records/datasets'
import { addPair, deleteDerived, deleteRecord, dependentsOf, recordPage, removePair } from '../db/records/records'
import { readSamples, readStrips } from '../db/records/samples'
import { channel, chunk, dataset, run } from '../db/schema'
import { exportCsv } from '../reports/record'
import { BY, demoFile, importBytes, reduceAndKeep, readyServer, type TestServer } from './campaign'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const bytes = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n')
const imported = (file: Uint8Array, change: Partial<NewImport>) => importBytes(server, testId, file, change)
const refused = async (work: () => Promise<unknown>): Promise<HypometError> => {
  const e = await work().then(
    () => new Error('was not refused'),
    (x: unknown) => x,
  )
  if (!isHypometError(e)) throw e
  return e
}

/**
 * The demo's record of B as two loggers would have it: load and strain on one, tip and frame on another with a slow
 * clock.
 */
function parted(behind: number) {
  const rows = new TextDecoder()
    .decode(demoFile('hanger-arm-b.csv'))
    .trim()
    .split('\n')
    .slice(4)
    .map(l => l.split(';'))
  const clock = (s: string) => (Number(s.replace(',', '.')) - behind).toFixed(1).replace('.', ',')
  return {
    main: bytes(['Zeit;Last;DMS', ...rows.map(r => `${r[0]};${r[1]};${r[3]}`)]),
    other: bytes(['Clock|Tip|Frame', ...rows.slice(50, -3).map(r => `${clock(r[0]!)}|${r[2]}|${r[4]}`)]),
  }
}
const MAIN = {
  t: { column: 'Zeit', unit: 's' },
  load: { column: 'Last', unit: 'kN' },
  strainRoot: { column: 'DMS', unit: 'µε' },
}
const OTHER = { t: { column: 'Clock', unit: 's' }, deflection: { column: 'Tip', unit: 'mm' } }
const BARS = { delimiter: '|' as const, headerRow: 1 }

describe('two loggers of one test', () => {
  it('are reduced together as one would be, once the second’s clock is set; what is lacking is said', async () => {
    await importBytes(server, testId, demoFile('hanger-arm-b.csv'))
    const whole = await reduceAndKeep(server, testId)
    const { main, other } = parted(4)
    const { datasetId } = await imported(main, { channels: MAIN })
    expect(await refused(() => reduceAndKeep(server, testId))).toMatchObject({
      code: 'missing-channel',
      place: { path: 'channels.deflection' },
    })
    const joined = await imported(other, { channels: OTHER, reading: BARS, joins: datasetId, clockOffset: 4 })
    expect(joined.runId).toBeNull()
    const together = await reduceAndKeep(server, testId)
    const results = (r: typeof whole) =>
      Object.fromEntries(Object.entries(r.output.results).map(([k, v]) => [k, v.value]))
    for (const [key, value] of Object.entries(results(whole)))
      if (value !== null) expect(Math.abs(results(together)[key]! / value - 1), key).toBeLessThan(2e-3)
    expect(together.inputs!.map(i => [i.datasetId, i.clockOffset])).toEqual([
      [datasetId, 0],
      [joined.datasetId, 4],
    ])
    // Set wrongly, load and deflection no longer belong together.
    await moveClock(server.database, BY, joined.datasetId, 9)
    const apart = await reduceAndKeep(server, testId)
    expect(apart.inputSha256).not.toBe(together.inputSha256)
    expect(Math.abs(results(apart)['stiffness']! / results(whole)['stiffness']! - 1)).toBeGreaterThan(5e-3)
    expect((await refused(() => moveClock(server.database, BY, datasetId, 1))).code).toBe('main-clock')
    expect((await refused(() => imported(other, { channels: OTHER, reading: BARS, joins: datasetId }))).code).toBe(
      'role-taken',
    )
  })

  it('show on one axis, find their clocks by what both recorded, and are exported on one clock', async () => {
    const { main, other } = parted(4)
    const { datasetId } = await imported(main, { channels: MAIN })
    await imported(other, { channels: OTHER, reading: BARS, joins: datasetId })
    const page = await recordPage(server.database.read, datasetId)
    const id = (role: string) => page.channels.find(c => c.role === role)!.id
    const found = await server.run('align', { datasetId, a: id('load'), b: id('deflection'), most: 20 })
    expect(Math.abs(found.offset - 4)).toBeLessThan(0.1)
    expect(found.correlation).toBeGreaterThan(0.99)
    await moveClock(server.database, BY, page.records[1]!.id, 4)
    const strip = await readStrips(
      server.database.read,
      await server.database.read.select().from(channel).where(eq(channel.datasetId, page.records[1]!.id)),
      100,
      { from: 100, to: 110 },
    )
    expect(strip.times[0]![0]).toBeCloseTo(99.9, 6)
    const csv: string[] = []
    for await (const part of exportCsv(
      server.database.read,
      datasetId,
      (await server.database.read.select().from(channel)).filter(c => [id('load'), id('deflection')].includes(c.id)),
      { from: 100, to: 100.45 },
    ))
      csv.push(part as string)
    const [header, ...rows] = csv.join('').trim().split('\n')
    expect(header).toBe('t [s],Last [N],Tip [m]')
    const [t, , tip] = rows[0]!.split(',').map(Number)
    expect(rows).toHaveLength(5)
    const tips = await readSamples(server.database.read, id('deflection'))
    expect([t, tip]).toEqual([100, tips[950]])
  })

  it('are watched where two channels ought to agree, and the flag moves with the clock', async () => {
    const times = Array.from({ length: 400 }, (_, i) => i / 10)
    const { datasetId } = await imported(bytes(['Zeit,Last,A', ...times.map(t => `${t},${t / 10},${t * 2}`)]), {
      channels: { t: MAIN.t, load: MAIN.load },
    })
    await imported(bytes(['Clock,B [mm]', ...times.map(t => `${t},${t < 20 ? t : t + 1}`)]), {
      channels: { t: OTHER.t, deflection: { column: 'B [mm]', unit: 'mm', scale: 1 } },
      joins: datasetId,
    })
    const [first] = await server.database.read.select().from(channel).where(eq(channel.name, 'A'))
    const page = await recordPage(server.database.read, datasetId)
    const b = page.channels.find(c => c.role === 'deflection')!
    expect(
      (await refused(() => addPair(server.database, BY, datasetId, { a: first!.id, b: b.id, tolerance: 1 }))).code,
    ).toBe('unit-dimension')
    const { id: made } = (await server.run('derive', {
      datasetId,
      expression: 'deflection + 0*deflection',
      width: 100,
      from: 0,
      to: 40,
      keep: { name: 'as it should be', by: BY },
    })) as { id: number }
    await addPair(server.database, BY, datasetId, { a: made, b: b.id, tolerance: 1e-4 })
    await server.run('health', { datasetId, options: {}, fullScale: {} })
    const flags = async () =>
      (await recordPage(server.database.read, datasetId)).channels.flatMap(c =>
        (c.health ?? []).filter(f => f.code === 'parted').map(f => [c.name, f.at]),
      )
    expect(await flags()).toEqual([])
    // Ramps of 1 mm/s: half a second of wrong clock is 0.5 mm.
    await moveClock(server.database, BY, page.records[1]!.id, 0.5)
    await server.run('pairs', { datasetId })
    expect(await flags()).toEqual([
      ['B [mm]', 0.5],
      ['as it should be', 0.5],
    ])
    expect((await dependentsOf(server.database.read, page.records[1]!.id)).pairs).toBe(1)
    const turned = (await server.run('derive', {
      datasetId,
      expression: '-deflection',
      width: 100,
      from: 0,
      to: 40,
      keep: { name: 'the other way', by: BY },
    })) as { id: number }
    const { id: against } = await addPair(server.database, BY, datasetId, { a: turned.id, b: b.id, tolerance: 1e-4 })
    await server.run('pairs', { datasetId })
    const signs = (await recordPage(server.database.read, datasetId)).channels
      .find(c => c.id === turned.id)!
      .health!.map(f => [f.code, f.message])
    expect(signs).toContainEqual(['swapped-sign', expect.stringMatching(/^Falls where “B” rises: one of the two/)])
    await removePair(server.database, BY, against)
    await deleteDerived(server.database, BY, turned.id)
    await server.run('pairs', { datasetId })
    // What is derived from both follows the clock, and then agrees again.
    expect(await server.run('rederive', { datasetId })).toEqual([made])
    await server.run('pairs', { datasetId })
    expect(await flags()).toEqual([])
    await moveClock(server.database, BY, page.records[1]!.id, 0)
    await server.run('pairs', { datasetId })
    expect(await flags()).toHaveLength(2)
    expect(await dependentsOf(server.database.read, page.records[1]!.id)).toMatchObject({
      mayGo: false,
      users: ['as it should be'],
    })
    expect(await refused(() => deleteRecord(server.database, BY, page.records[1]!.id))).toMatchObject({
      code: 'rests-on-it',
      message: expect.stringContaining('as it should be') as string,
    })
    await deleteDerived(server.database, BY, made)
    await server.run('pairs', { datasetId })
    expect(await flags()).toEqual([])
    expect((await refused(() => deleteDerived(server.database, BY, b.id))).code).toBe('not-derived')
  })
})

describe('a column', () => {
  it('is calibrated by factor and offset, or by a table, and the extremes with it', async () => {
    const rows = Array.from({ length: 200 }, (_, i) => `${i / 10},${(i % 100) / 100},${i}`)
    const { datasetId } = await imported(bytes(['Time,Bridge [mV],Wire', ...rows]), {
      channels: {
        t: { column: 'Time', unit: 's' },
        load: {
          column: 'Bridge [mV]',
          unit: 'kN',
          table: [
            [0, 10],
            [0.5, 5],
            [0.9, 0],
          ],
        },
        deflection: { column: 'Wire', unit: 'mm', scale: -0.5, offset: 20 },
      },
    })
    const page = await recordPage(server.database.read, datasetId)
    const [load, wire] = [page.channels[0]!, page.channels[1]!]
    const y = await readSamples(server.database.read, load.id)
    expect([y[0], y[25], y[50], y[90], y[99]].map(v => Math.round(v!))).toEqual([10_000, 7500, 5000, 0, -1125])
    expect([load.min, load.max].map(v => Math.round(v!))).toEqual([-1125, 10_000])
    expect((await readSamples(server.database.read, wire.id))[100]).toBeCloseTo(-0.03, 12)
    const strip = await readStrips(
      server.database.read,
      await server.database.read.select().from(channel).where(eq(channel.id, wire.id)),
      10,
      null,
    )
    expect(strip.channels[0]!.min.every((v, i) => v! <= strip.channels[0]!.max[i]!)).toBe(true)
    expect(page.records[0]!.warnings).toEqual([expect.objectContaining({ code: 'beyond-calibration' })])
    expect(
      (
        await refused(() =>
          imported(bytes(['Time,A', ...rows]), {
            channels: {
              t: { column: 'Time', unit: 's' },
              load: {
                column: 'A',
                unit: 'kN',
                table: [
                  [0, 1],
                  [0, 2],
                ],
              },
            },
          }),
        )
      ).code,
    ).toBe('calibration-table')
  })

  it('of a planned channel is in a unit of what that measures', async () => {
    const { main } = parted(0)
    expect(
      await refused(() => imported(main, { channels: { ...MAIN, frame: { column: 'DMS', unit: 'm/s2' } } })),
    ).toMatchObject({ code: 'unit-dimension', place: { path: 'channels.frame.unit' } })
  })

  it('needs no clock where the rate is known, nor names, nor more than blanks between', async () => {
    const file = bytes(['Rig 4', ...Array.from({ length: 3000 }, (_, i) => `  ${(i / 8).toFixed(3)}   ${-i}`)])
    expect(
      (
        await refused(() =>
          imported(file, {
            channels: { load: { column: 'Column 1', unit: 'kN' } },
            reading: { delimiter: ' ', headerRow: 0 },
          }),
        )
      ).code,
    ).toBe('missing-channel')
    const { datasetId } = await imported(file, {
      channels: { load: { column: 'Column 1', unit: 'kN' } },
      reading: { delimiter: ' ', headerRow: 0, rate: 250, units: { 'Column 2': 'mm' } },
    })
    expect(
      (
        await refused(() =>
          imported(file, {
            channels: { load: { column: 'Column 1', unit: 'kN' } },
            reading: { delimiter: ' ', headerRow: 0, rate: 250, units: { 'Column 2': 'furlong' } },
          }),
        )
      ).code,
    ).toBe('unit-unknown')
    const page = await recordPage(server.database.read, datasetId)
    expect([page.from, page.to, page.records[0]!.rows, page.channels[0]!.max, page.channels[1]!.min]).toEqual([
      0,
      2999 / 250,
      3000,
      374_875,
      -2.999,
    ])
  })
})

describe('steps', () => {
  it('are averaged for every channel of every logger, each on its own clock, and set against a guide', async () => {
    const times = Array.from({ length: 300 }, (_, i) => i / 10)
    const load = (t: number) => Math.floor(t / 10)
    const { datasetId } = await imported(bytes(['Zeit,Last', ...times.map(t => `${t},${load(t)}`)]), {
      channels: { t: MAIN.t, load: MAIN.load },
    })
    await imported(bytes(['Clock,Tip,Bent', ...times.map(t => `${t - 5},${3 * load(t)},${load(t) ** 2}`)]), {
      channels: OTHER,
      joins: datasetId,
      clockOffset: 5,
    })
    const page = await recordPage(server.database.read, datasetId)
    const guide = page.channels[0]!.id
    const { rows } = await server.run('steps', {
      datasetId,
      steps: [
        { from: 1, to: 9 },
        { from: 11, to: 19 },
        { from: 21, to: 29 },
      ],
      guide,
      zero: null,
    })
    const near = (v: number) => expect.closeTo(v, 12) as number
    expect(rows.map(r => r.means)).toEqual([
      [0, 1000, 2000],
      [0, near(0.003), near(0.006)],
      [0, 1, 4],
    ])
    expect(rows[1]).toMatchObject({
      slope: expect.closeTo(3e-6, 12) as number,
      nonlinearity: expect.closeTo(0, 9) as number,
    })
    // With a zero, each logger's own part of it is off every step; a slope stays what it is.
    const zeroed = await server.run('steps', {
      datasetId,
      steps: [
        { from: 1, to: 9 },
        { from: 21, to: 29 },
      ],
      guide,
      zero: { from: 11, to: 19 },
    })
    expect(zeroed.rows.map(r => r.means)).toEqual([
      [-1000, 1000],
      [near(-0.003), near(0.003)],
      [-1, 3],
    ])
    expect(zeroed.rows.map(r => r.isAsRead)).toEqual([false, false, false])
    // 0, 1, 4 over 0, 1, 2: line 2x − 1/3, farthest 2/3 of a range of 4.
    expect(rows[2]!.nonlinearity).toBeCloseTo(1 / 6, 12)
  })
})

describe('deleting a record', () => {
  it('is refused where kept results rest on it; else everything of it goes, and what joins it', async () => {
    const { main, other } = parted(0)
    const kept = (await importBytes(server, testId, demoFile('hanger-arm-b.csv'))).datasetId
    await reduceAndKeep(server, testId)
    expect(await refused(() => deleteRecord(server.database, BY, kept))).toMatchObject({
      code: 'rests-on-it',
      message: expect.stringContaining('1 kept result rests') as string,
    })
    const { datasetId } = await imported(main, { channels: MAIN })
    const joined = await imported(other, { channels: OTHER, reading: BARS, joins: datasetId })
    expect(await dependentsOf(server.database.read, datasetId)).toMatchObject({
      mayGo: true,
      joined: ['arm.csv'],
      runs: 1,
      channels: 3,
    })
    await deleteRecord(server.database, BY, datasetId)
    const { read } = server.database
    expect((await read.select({ id: dataset.id }).from(dataset)).map(d => d.id)).toEqual([kept])
    expect((await read.select().from(run)).map(r => r.datasetId)).toEqual([kept])
    const channels = await read.select({ id: channel.id, of: channel.datasetId }).from(channel)
    expect(channels.some(c => c.of === joined.datasetId || c.of === datasetId)).toBe(false)
    expect((await read.select({ of: chunk.channelId }).from(chunk)).every(k => channels.some(c => c.id === k.of))).toBe(
      true,
    )
  })
})
