import { parquetMetadataAsync, parquetRead } from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import { HypometError, isHypometError } from '../error'
import { assertRoom, type BinaryFormat, type ColumnTable, type FileValues } from './columns'
import { readJson } from './json'
import { readNpy, readNpz } from './npy'
import { readOds } from './ods'
import { tableOfSheets, type SheetSaid } from './sheets'
import { unitSaid } from './unitSaid'
import { readVibration } from './vibration'
import { readWav } from './wav'
import { readWorkbook } from './workbook'

/**
 * Columns of a file that is not text.
 *
 * @param mostRows  that are looked at; the table says where there are more
 * @throws HypometError `damaged-file`, `truncated-file`, `no-header`, `not-supported`, `too-large`
 */
export async function readColumns(
  bytes: Uint8Array,
  format: BinaryFormat,
  said: SheetSaid = {},
  mostRows = Infinity,
): Promise<ColumnTable> {
  switch (format) {
    case 'wav':
      return readWav(bytes, mostRows)
    case 'npy':
      return readNpy(bytes, undefined, mostRows)
    case 'npz':
      return readNpz(bytes, mostRows)
    case 'vibration':
      return readVibration(bytes)
    case 'parquet':
      return readParquet(bytes, mostRows)
    case 'xlsx':
      return tableOfSheets(readWorkbook(bytes, mostRows), said)
    case 'ods':
      return tableOfSheets(readOds(bytes, mostRows), said)
    case 'json':
      return readJson(bytes, mostRows)
  }
}

const damagedTable = (why: string): HypometError =>
  new HypometError('damaged-file', `This Parquet file is not read: ${why}.`)

/** Stamps of a Parquet file in nanoseconds, so that nothing of them is cut. */
const NANOSECONDS = {
  timestampFromMilliseconds: (ms: bigint) => ms * 1_000_000n,
  timestampFromMicroseconds: (us: bigint) => us * 1000n,
  timestampFromNanoseconds: (ns: bigint) => ns,
  dateFromDays: (days: number) => BigInt(days) * 86_400_000_000_000n,
}

/** Column by column, one row group after the other. */
async function readParquet(bytes: Uint8Array, mostRows: number): Promise<ColumnTable> {
  const file = bytes.byteLength === bytes.buffer.byteLength ? (bytes.buffer as ArrayBuffer) : bytes.slice().buffer
  try {
    const metadata = await parquetMetadataAsync(file)
    const all = Number(metadata.num_rows)
    const held = metadata.row_groups.reduce((n, g) => n + Number(g.num_rows), 0)
    if (!(all >= 0) || held !== all)
      throw damagedTable(`it claims ${all.toLocaleString('en')} rows, and its parts hold ${held.toLocaleString('en')}`)
    const rows = Math.min(all, mostRows)
    assertRoom(rows, metadata.schema.length)
    const columns = new Map<string, FileValues & { base: bigint | null }>()
    const stamped = new Set(metadata.schema.flatMap(s => (isTime(s) ? [s.name] : [])))
    await parquetRead({
      file,
      metadata,
      compressors,
      rowEnd: rows,
      parsers: NANOSECONDS,
      onChunk({ columnName: name, columnData, rowStart }) {
        let column = columns.get(name)
        if (!column) {
          const values = new Float64Array(rows).fill(NaN)
          columns.set(name, (column = { name, unit: stamped.has(name) ? 's' : unitSaid(name, ''), values, base: null }))
        }
        for (let i = 0; i < columnData.length; i++) {
          const v: unknown = columnData[i]
          if (typeof v === 'bigint' && stamped.has(name)) {
            // From the full second of the first: what is after it is exact.
            column.base ??= v - (((v % SECOND) + SECOND) % SECOND)
            column.values[rowStart + i] = Number(v - column.base) / 1e9
          } else column.values[rowStart + i] = asNumber(v)
        }
      },
    })
    const order = metadata.schema.map(s => s.name)
    return {
      columns: [...columns.values()]
        .toSorted((a, b) => order.indexOf(a.name) - order.indexOf(b.name))
        .map(({ base, ...c }) => (base === null ? c : { ...c, from: Number(base / SECOND) })),
      about: `Parquet, ${all.toLocaleString('en')} rows`,
      ...(rows < all ? { isCut: true } : {}),
    }
  } catch (e) {
    if (isHypometError(e)) throw e
    const why = String((e as Error).message)
    if (/unsupported (compression|encoding|parquet)/i.test(why))
      throw new HypometError(
        'not-supported',
        `This Parquet file is packed in a way that is not read: ${why.slice(0, 120)}.`,
      )
    throw damagedTable('its list of columns or a part of it is damaged or breaks off')
  }
}

const SECOND = 1_000_000_000n

const isTime = (s: { logical_type?: { type: string } | undefined; converted_type?: string | undefined }): boolean =>
  ['TIMESTAMP', 'DATE'].includes(s.logical_type?.type ?? '') || /^(TIMESTAMP|DATE)/.test(s.converted_type ?? '')

const asNumber = (v: unknown): number =>
  typeof v === 'number' ? v : typeof v === 'bigint' || typeof v === 'boolean' ? Number(v) : NaN
