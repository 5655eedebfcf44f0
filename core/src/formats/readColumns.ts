import { parquetMetadataAsync, parquetRead } from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import readSheet from 'read-excel-file/universal'
import { HypometError } from '../error'
import type { BinaryFormat, ColumnTable, FileValues } from './columns'
import { readJson } from './json'
import { readNpy, readNpz } from './npy'
import { readOds } from './ods'
import { tableOfSheets, type Cell, type SheetSaid } from './sheets'
import { unitSaid } from './unitSaid'
import { readVibration } from './vibration'
import { readWav } from './wav'

/**
 * Columns of a file that is not text. @throws HypometError `damaged-file`, `truncated-file`, `no-header`,
 * `not-supported`, `too-large`
 */
export async function readColumns(bytes: Uint8Array, format: BinaryFormat, said: SheetSaid = {}): Promise<ColumnTable> {
  switch (format) {
    case 'wav':
      return readWav(bytes)
    case 'npy':
      return readNpy(bytes)
    case 'npz':
      return readNpz(bytes)
    case 'vibration':
      return readVibration(bytes)
    case 'parquet':
      return readParquet(bytes)
    case 'xlsx':
      return tableOfSheets(await readWorkbook(bytes), said)
    case 'ods':
      return tableOfSheets(readOds(bytes), said)
    case 'json':
      return readJson(bytes)
  }
}

const own = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer

/** Stamps of a Parquet file in nanoseconds, so that nothing of them is cut. */
const NANOSECONDS = {
  timestampFromMilliseconds: (ms: bigint) => ms * 1_000_000n,
  timestampFromMicroseconds: (us: bigint) => us * 1000n,
  timestampFromNanoseconds: (ns: bigint) => ns,
  dateFromDays: (days: number) => BigInt(days) * 86_400_000_000_000n,
}

/** Column by column, one row group after the other. */
async function readParquet(bytes: Uint8Array): Promise<ColumnTable> {
  const file = own(bytes)
  try {
    const metadata = await parquetMetadataAsync(file)
    const rows = Number(metadata.num_rows)
    const columns = new Map<string, FileValues & { base: bigint | null }>()
    const stamped = new Set(metadata.schema.flatMap(s => (isTime(s) ? [s.name] : [])))
    await parquetRead({
      file,
      metadata,
      compressors,
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
      about: `Parquet, ${rows.toLocaleString('en')} rows`,
    }
  } catch (e) {
    throw new HypometError('damaged-file', `This Parquet file is not read: ${(e as Error).message}`)
  }
}

const SECOND = 1_000_000_000n

const isTime = (s: { logical_type?: { type: string } | undefined; converted_type?: string | undefined }): boolean =>
  ['TIMESTAMP', 'DATE'].includes(s.logical_type?.type ?? '') || /^(TIMESTAMP|DATE)/.test(s.converted_type ?? '')

const asNumber = (v: unknown): number =>
  typeof v === 'number' ? v : typeof v === 'bigint' || typeof v === 'boolean' ? Number(v) : NaN

/** Sheets of a workbook, cell by cell. @throws HypometError `damaged-file` */
async function readWorkbook(bytes: Uint8Array): Promise<{ sheet: string; data: Cell[][] }[]> {
  try {
    return (await readSheet(own(bytes) as never)) as never
  } catch (e) {
    throw new HypometError('damaged-file', `This workbook is not read: ${(e as Error).message}`)
  }
}
