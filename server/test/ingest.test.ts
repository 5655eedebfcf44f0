import { gzipSync } from 'node:zlib'
import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { decodeChunk, encodeChunk } from '../db/records/chunkCodec'
import { readDataset, readSamples, readStrip } from '../db/records/samples'
import { channel, chunk, dataset } from '../db/schema'
import { discard } from '../db/records/importing'
import { BY, importBytes, readyServer, type TestServer } from './campaign'
import { beginImport } from '../db/records/datasets'
import { families, resolveChannels } from '@hypomet/core'
import { importText } from '../ingest/importText'
import { parsedHere } from '../ingest/parseBlock'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const CHANNELS = {
  t: { column: 'Time', unit: 's' },
  load: { column: 'Load', unit: 'kN', scale: -1 },
  deflection: { column: 'Tip', unit: 'mm' },
}
const utf8 = (text: string) => new TextEncoder().encode(text)
const utf16 = (text: string) => Uint8Array.from([0xff, 0xfe, ...Buffer.from(text, 'utf16le')])
const imported = (bytes: Uint8Array) => importBytes(server, testId, bytes, { channels: CHANNELS })
const rows = (n: number, stamp: (i: number) => string) =>
  Array.from({ length: n }, (_, i) => `${stamp(i)},${(-0.125 * i).toFixed(3)},${(i % 40) / 4},${20 + (i % 3)},on`)
const TABLE = ['Job 7', 'Time,Load,Tip,Oil temperature [°C],State', 's,kN,mm,°C,']

describe('an imported file', () => {
  it('is stored to the bit, mapped columns in SI for reductions, the others beside them, words let go', async () => {
    const { datasetId } = await imported(utf8([...TABLE, ...rows(500, i => (i * 0.1).toFixed(1))].join('\r\n')))
    const { columns, units } = await readDataset(server.database.read, datasetId)
    expect(Object.keys(columns).toSorted()).toEqual(['deflection', 'load', 't'])
    expect(columns['load']!.every((v, i) => v === 0.125 * i * 1000)).toBe(true)
    expect([columns['t']![499], units['load']]).toEqual([49.9, 'N'])
    const kept = await server.database.read
      .select()
      .from(channel)
      .where(eq(channel.datasetId, datasetId))
      .orderBy(channel.id)
    expect(kept.map(c => [c.role, c.used])).toEqual([
      ['t', true],
      ['load', true],
      ['deflection', true],
      ['Oil temperature [°C]', false],
    ])
    expect((await readSamples(server.database.read, kept[3]!.id))[1]).toBeCloseTo(294.15, 10)
  })

  it('may be packed, or in UTF-16, or have a clock that begins anew at midnight, which it then says', async () => {
    const day = [...TABLE, ...rows(400, i => String((86_300 + i) % 86_400))].join('\n')
    for (const bytes of [gzipSync(utf8(day)), utf16(day)]) {
      const { datasetId } = await imported(bytes)
      const { columns } = await readDataset(server.database.read, datasetId)
      expect([columns['t']![399], columns['load']![8]]).toEqual([86_699, 1000])
      const [{ warnings }] = (await server.database.read.select().from(dataset).where(eq(dataset.id, datasetId))) as [
        typeof dataset.$inferSelect,
      ]
      expect(warnings.map(w => w.code)).toEqual(['clock-midnight'])
    }
  })

  it('that was being read when the process died is gone on with, and comes out the same', async () => {
    const text = utf8([...TABLE, ...rows(400_000, i => (i / 1000).toFixed(3))].join('\n'))
    const whole = await imported(text)
    const sha256 = await server.originals.keep(text)
    const { id } = await beginImport(server.database, BY, testId, {
      sha256,
      fileName: 'arm.csv',
      channels: CHANNELS,
      end: 'ladder done',
    })
    const payload = {
      datasetId: id,
      sha256,
      fileName: 'arm.csv',
      family: 'static',
      channels: CHANNELS,
      sensorOf: {},
      testId,
      by: BY,
      end: 'ladder done',
    }
    let blocks = 0
    const progress = () => {
      if (++blocks === 2) throw new Error('power cut')
    }
    const mappings = resolveChannels(families['static']!.roles, CHANNELS)
    // Straight, without the handler that would tidy up: a process that dies does not.
    await expect(
      importText(
        { db: server.worker, parsers: parsedHere, check: () => {}, progress },
        { datasetId: id, path: server.originals.path(sha256), mappings, sensorOf: {} },
      ),
    ).rejects.toThrow('power cut')
    const { read } = server.database
    const [half] = await read.select().from(dataset).where(eq(dataset.id, id))
    expect(half!.status).toBe('importing')
    expect(half!.rows).toBeGreaterThan(0)
    expect(half!.rows).toBeLessThan(400_000)
    await server.run('import', payload)
    expect((await readDataset(read, id)).columns).toEqual((await readDataset(read, whole.datasetId)).columns)
    await server.database.write(db => discard(db, id))
    expect(await read.select().from(channel).where(eq(channel.datasetId, id))).toEqual([])
  })

  it('draws a range from few numbers that hold every extreme', async () => {
    const { datasetId } = await imported(utf8([...TABLE, ...rows(300_000, i => (i / 1000).toFixed(3))].join('\n')))
    const { read } = server.database
    const whole = await readStrip(read, datasetId, ['load', 'deflection'], 500)
    expect(whole.t.length).toBeLessThanOrEqual(500)
    expect([
      Math.max(...(whole.channels['load']!.max as number[])),
      Math.min(...(whole.channels['load']!.min as number[])),
    ]).toEqual([0.125 * 299_999 * 1000, 0])
    const part = await readStrip(read, datasetId, ['load'], 500, { from: 100, to: 100.1 })
    expect([part.t[0], part.t.at(-1)]).toEqual([99.999, 100.101])
    const middle = await readStrip(read, datasetId, ['load'], 500, { from: 50, to: 150 })
    expect(middle.t[0]).toBeGreaterThanOrEqual(49.9)
    expect(middle.channels['load']!.max.at(-1)).toBeCloseTo(125 * 150_000, -4)
  })

  it('takes less than half of what single precision would, where the source counts', async () => {
    const { datasetId } = await imported(utf8([...TABLE, ...rows(200_000, i => (i / 1000).toFixed(3))].join('\n')))
    const stored = await server.database.read
      .select({ data: chunk.data, extremes: chunk.extremes })
      .from(chunk)
      .innerJoin(channel, eq(channel.id, chunk.channelId))
      .where(eq(channel.datasetId, datasetId))
    expect(stored.reduce((n, c) => n + c.data.length + c.extremes.length, 0)).toBeLessThan((4 * 4 * 200_000) / 2)
  })
})

describe('a chunk', () => {
  it('comes back to the bit: counts, gaps, infinities, any double', () => {
    for (const values of [
      [1.25, NaN, -3.5, 0],
      [1e300, -Infinity, 0.1 + 0.2, Math.PI],
      [2 ** 31, 1],
      [],
      [NaN, NaN],
      Array.from({ length: 1000 }, (_, i) => Math.round(1e6 * Math.sin(i)) / 1e6),
    ].map(v => Float64Array.from(v)))
      expect(decodeChunk(encodeChunk(values), values.length)).toEqual(values)
  })
})
