import { gzipSync } from 'node:zlib'
import { isHypometError, type HypometError } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { parquetWriteBuffer } from 'hyparquet-writer'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { WRITTEN } from '../../core/src/fixtures/written'
import { previewFile } from '../db/records/datasets'
import { readDataset } from '../db/records/samples'
import { channel, chunk, dataset } from '../db/schema'
import { headText } from '../ingest/headBytes'
import { importBytes, readyServer, type TestServer } from './campaign'

let server: TestServer
let testId: number
beforeAll(async () => ({ server, testId } = await readyServer()))
afterAll(() => server.close())

const CHANNELS = {
  t: { column: 'Time', unit: 's' },
  load: { column: 'Load', unit: 'kN' },
  deflection: { column: 'Tip', unit: 'mm' },
}
const bytes = (text: string) => new TextEncoder().encode(text)
const rows = (n: number, row = (i: number) => `${i},${i / 2},${i / 4}`) => Array.from({ length: n }, (_, i) => row(i))
const table = (...lines: string[]) => bytes(['Time,Load,Tip', ...lines].join('\n') + '\n')
const swap = (list: string[], at: number, line: string) => list.with(at, line)
const npz = new Uint8Array(Buffer.from(WRITTEN.npz, 'base64'))

/** How an import ends: the refusal, or what it warned of. */
async function outcome(
  file: Uint8Array,
): Promise<{ code: string; place: HypometError['place'] } | { warnings: string[]; rows: number }> {
  try {
    const { datasetId } = await importBytes(server, testId, file, { channels: CHANNELS })
    const [d] = await server.database.read.select().from(dataset).where(eq(dataset.id, datasetId))
    return { warnings: d!.warnings.map(w => w.code), rows: d!.rows }
  } catch (e) {
    if (!isHypometError(e)) throw e
    return { code: e.code, place: e.place }
  }
}

it('takes thousands as it is told', async () => {
  const file = bytes(`Time;Load;Tip\n${rows(20, i => `${i};${i ? `${i},000` : 0};${i}`).join('\n')}\n`)
  for (const [numbers, last] of [
    ['point', 19_000_000],
    ['comma', 19_000],
  ] as const) {
    const reading = { numbers }
    const { datasetId } = await importBytes(server, testId, file, { channels: CHANNELS, reading })
    expect((await readDataset(server.database.read, datasetId)).columns['load']!.at(-1)).toBe(last)
  }
})

describe('a broken file', () => {
  it.each<[string, Uint8Array, object]>([
    ['nothing at all', bytes(''), { code: 'empty-file' }],
    ['blank lines and comments', bytes('\n\n# nothing\n   \n'), { code: 'empty-file' }],
    ['a header alone', table(), { code: 'empty-file' }],
    ['two rows', table(...rows(2)), { code: 'data-range' }],
    [
      'no such column',
      bytes('Time,Force,Tip\n0,1,2\n1,2,3\n2,3,4\n'),
      { code: 'missing-column', place: { column: 'Load' } },
    ],
    ['a row with a cell too many', table(...swap(rows(20), 7, '7,1,2,3')), { code: 'ragged-row', place: { row: 9 } }],
    ['a row with a cell too few', table(...swap(rows(20), 7, '7,1')), { code: 'ragged-row', place: { row: 9 } }],
    ['a last row that breaks off', table(...rows(20), '20,1'), { warnings: ['truncated-row'], rows: 20 }],
    ['a column of words', table(...rows(20, i => `${i},off,${i}`)), { code: 'no-data', place: { column: 'Load' } }],
    ['a column of NaN', table(...rows(20, i => `${i},nan,${i}`)), { code: 'no-data', place: { column: 'Load' } }],
    ['a word among many numbers', table(...swap(rows(200), 4, '4,oops,1')), { warnings: ['bad-cell'], rows: 200 }],
    ['a word among few', table(...swap(rows(20), 4, '4,oops,1')), { code: 'cells-lost', place: { row: 6 } }],
    [
      'numbers that may be two',
      bytes(`Time;Load;Tip\n${rows(20, i => `${i};${i ? `${i},000` : 0};${i}`).join('\n')}\n`),
      { code: 'number-ambiguous', place: { path: 'reading.numbers' } },
    ],
    ['gaps', table(...swap(rows(20), 4, '4,,--')), { warnings: [], rows: 20 }],
    ['time that goes back', table(...swap(rows(20), 9, '3,1,1')), { code: 'time-order', place: { row: 11 } }],
    ['time that stands still', table(...swap(rows(20), 9, '8,1,1')), { code: 'time-order', place: { row: 11 } }],
    [
      'time that begins anew at midnight',
      table(...rows(20, i => `${(86_390 + i) % 86_400},${i},${i}`)),
      { warnings: ['clock-midnight'], rows: 20 },
    ],
    [
      'a clock put back an hour',
      table(...rows(20, i => `${10_790 + i - (i > 9 ? 3600 : 0)},${i},${i}`)),
      { warnings: ['clock-hour-back'], rows: 20 },
    ],
    [
      'decimal commas between commas',
      bytes('Time,Load,Tip\n0,0,1,5,2\n0,1,2,5,3\n'),
      { code: 'ragged-row', place: { row: 2 } },
    ],
    [
      'decimal marks of both kinds',
      bytes('Time;Load;Tip\n0,0;1.5;2\n0,1;2,5;3\n0.2;3.5;4,5\n'),
      { warnings: [], rows: 3 },
    ],
    [
      'thousands marked',
      table(...rows(20, i => `${i},"1,${String(i).padStart(3, '0')}",${i}`)),
      { code: 'number-ambiguous', place: { path: 'reading.numbers' } },
    ],
    ['the same heading twice', bytes('Time,Load,Tip,Load\n0,1,2,9\n1,2,3,9\n2,3,4,9\n'), { warnings: [], rows: 3 }],
    [
      'headings that are empty',
      bytes('Time,Load,Tip,,X\n0,1,2,9,1\n1,2,3,9,1\n2,3,4,9,1\n'),
      { warnings: [], rows: 3 },
    ],
    [
      'another unit than the plan’s',
      bytes('Time,Load,Tip\ns,lbf,mm\n0,1,2\n1,2,3\n2,3,4\n'),
      { warnings: ['unit-mismatch'], rows: 3 },
    ],
    ['gzip that breaks off', gzipSync(table(...rows(5000))).subarray(0, 900), { code: 'truncated-file' }],
    [
      'gzip that is damaged',
      gzipSync(table(...rows(5000))).map((b, i) => (i > 300 && i < 340 ? 0 : b)),
      { code: 'truncated-file' },
    ],
    ['a line that never ends', bytes(`Time,Load,Tip\n0,1,2\n${'7'.repeat(20e6)}`), { code: 'line-too-long' }],
    ['much of nothing, packed small', gzipSync(Buffer.alloc(40e6, '0')), { code: 'not-text' }],
    [
      'more columns than are read',
      bytes(`Time,Load,Tip${',x'.repeat(20_000)}\n${`0,1,2${',1'.repeat(20_000)}\n`.repeat(3)}`),
      { code: 'too-large' },
    ],
    [
      'a decimal comma in one column of stamps',
      bytes('Time;Load;Tip\n10:00:00,5;1;2\n10:00:01,5;2;3\n10:00:02,5;3;4\n'),
      { warnings: ['clock-stamps'], rows: 3 },
    ],
    [
      'stamps that wrap at midnight',
      bytes(
        [
          'Time,Load,Tip',
          ...rows(20, i => `${i < 10 ? '23:59:' + (50 + i) : '00:00:0' + (i - 10)},${i},${i}`),
          '',
        ].join('\n'),
      ),
      { warnings: ['clock-stamps', 'clock-midnight'], rows: 20 },
    ],
    ['line ends of old machines', bytes(['Time,Load,Tip', ...rows(20)].join('\r')), { warnings: [], rows: 20 }],
    ['line ends of every kind', bytes('Time,Load,Tip\r\n0,1,2\n1,2,3\r2,3,4\r\n'), { warnings: [], rows: 3 }],
    [
      'a number too large for a double',
      table(...swap(rows(200), 4, '4,1e999,1')),
      { warnings: ['bad-cell'], rows: 200 },
    ],
    ['an archive that breaks off', npz.subarray(0, 200), { code: 'truncated-file' }],
    ['an archive without the column', npz, { code: 'missing-column' }],
    [
      'Parquet that breaks off',
      new Uint8Array(parquetWriteBuffer({ columnData: [{ name: 'Time', data: [0, 1, 2], type: 'DOUBLE' }] })).subarray(
        0,
        50,
      ),
      { code: 'damaged-file' },
    ],
  ])('%s', async (_what, file, wanted) => {
    expect(await outcome(file)).toMatchObject(wanted)
  })

  it('leaves nothing behind, and says what it is where it is no table', async () => {
    const { read } = server.database
    const kept = new Set((await read.select({ id: dataset.id }).from(dataset)).map(d => d.id))
    expect((await read.select().from(channel)).every(c => kept.has(c.datasetId))).toBe(true)
    const channels = new Set((await read.select({ id: channel.id }).from(channel)).map(c => c.id))
    expect((await read.select({ id: chunk.channelId }).from(chunk)).every(c => channels.has(c.id))).toBe(true)
    for (const file of [Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256), bytes('a\0b')])
      expect(() => previewFile(headText(file), [])).toThrow(expect.objectContaining({ code: 'not-text' }) as Error)
  })

  it('is none: Parquet, with a column beside those that are mapped', async () => {
    const column = (name: string, f: (i: number) => number) => ({
      name,
      data: Array.from({ length: 50 }, (_, i) => f(i)),
      type: 'DOUBLE' as const,
    })
    const file = new Uint8Array(
      parquetWriteBuffer({
        columnData: [
          column('Time', i => i / 10),
          column('Load', i => i / 8),
          column('Tip', i => i),
          column('Oil [°C]', () => 21.5),
        ],
      }),
    )
    const { datasetId } = await importBytes(server, testId, file, { channels: CHANNELS })
    const { columns } = await readDataset(server.database.read, datasetId)
    expect([columns['load']![16], columns['deflection']![16], columns['t']![16]]).toEqual([2000, 0.016, 1.6])
    expect((await server.database.read.select().from(channel).where(eq(channel.datasetId, datasetId))).length).toBe(4)
  })
})
