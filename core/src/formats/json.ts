import { HypometError } from '../error'
import { cellNumber, isGap } from './cells'
import { assertRoom, type ColumnTable } from './columns'
import { decodeText } from './decode'
import { readStamp } from './stamps'
import { unitSaid } from './unitSaid'

type Values = readonly unknown[]
type Named = readonly [name: string, values: Values]

const notTable = (): HypometError =>
  new HypometError(
    'no-header',
    'This JSON holds no table: records, or columns of one length, with names and numbers are read.',
  )

/**
 * Columns of a JSON file: an array of records, lines of records, an object of columns, columns by their row's number, a
 * table split into names and rows, rows under a first row of names; also where one of these is a member of an object.
 * Records within records give columns by both names, a point between.
 *
 * @param mostRows  where it is finite, the first records of a large file are enough
 * @throws HypometError `damaged-file`, `no-header`, `too-large`
 * @source RFC 8259; lines of records as in common use
 */
export function readJson(bytes: Uint8Array, mostRows = Infinity): ColumnTable {
  const head = mostRows < Infinity && bytes.length > HEAD_BYTES ? headIn(bytes) : null
  if (bytes.length > MOST_BYTES && !head)
    throw new HypometError('too-large', 'JSON is read up to 256 MB; export it as CSV, which may be of any length.')
  const text = head ? '' : decodeText(bytes).replace(/^\ufeff/, '')
  const whole = head ?? parsed(text)
  const found = whole === undefined ? linesIn(text) : tableIn(whole, true)
  if (!found) throw notTable()
  const columns = found.map(([name, values]) => columnOf(name, values))
  if (!columns.some(c => c.values.some(v => !Number.isNaN(v)))) throw notTable()
  const rows = columns[0]!.values.length.toLocaleString('en')
  return head
    ? { columns, about: `JSON, its first ${rows} rows`, isCut: true }
    : { columns, about: `JSON, ${rows} rows` }
}

const MOST_BYTES = 256 * 2 ** 20
/** Bytes in which the first records are looked for. */
const HEAD_BYTES = 8 * 2 ** 20

/** The records that the first bytes hold whole, of a list or line by line; null where they hold none. */
function headIn(bytes: Uint8Array): unknown {
  const text = decodeText(bytes.subarray(0, HEAD_BYTES)).replace(/^\ufeff/, '')
  const lines = text.slice(0, Math.max(0, text.lastIndexOf('\n'))).split('\n')
  const records = lines.filter(l => l.trim() !== '').map(parsed)
  if (records.length > 1 && records.every(isRecord)) return records
  // The end of a record, or of one within it: a few of them are tried.
  for (let [end, tries] = [text.length, 20]; text.trimStart().startsWith('[') && tries > 0 && end > 0; tries--) {
    end = text.lastIndexOf('}', end - 1)
    const list = end < 0 ? undefined : parsed(`${text.slice(0, end + 1)}]`)
    if (Array.isArray(list)) return list
  }
  return null
}

/** Undefined where it is not one value. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  } catch {
    return undefined
  }
}

function linesIn(text: string): Named[] | null {
  const records: unknown[] = []
  let row = 0
  for (const line of text.split('\n')) {
    row++
    if (line.trim() === '') continue
    const record = parsed(line)
    if (!isRecord(record))
      throw new HypometError('damaged-file', `This JSON breaks off or is damaged at line ${row}.`, { row })
    records.push(record)
  }
  return records.length > 0 ? ofRecords(records as Record<string, unknown>[]) : null
}

const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v)

/** @param isTop  whether the table may be a member of it */
function tableIn(value: unknown, isTop: boolean): Named[] | null {
  if (Array.isArray(value)) {
    if (value.length > 0 && value.every(isRecord)) return ofRecords(value)
    return value.length > 1 && value.every(Array.isArray)
      ? ofRows(value[0] as Values, value.slice(1) as Values[])
      : null
  }
  if (!isRecord(value)) return null
  const { columns, data } = value
  if (Array.isArray(columns) && Array.isArray(data) && data.every(Array.isArray))
    return ofRows(columns, data as Values[])
  const members = Object.entries(value)
  const lists = members.filter((m): m is [string, unknown[]] => Array.isArray(m[1]) && !m[1].some(isObject))
  const longest = Math.max(0, ...lists.map(([, v]) => v.length))
  const equal = lists.filter(([, v]) => v.length === longest)
  if (longest > 1 && equal.length > 1) return equal
  if (members.length > 0 && members.every(([, v]) => isRecord(v) && isNumbered(v))) {
    const keys = Object.keys(members[0]![1] as object)
    return members.map(([name, v]) => [name, keys.map(k => (v as Record<string, unknown>)[k])])
  }
  if (!isTop) return null
  for (const [, member] of members) {
    const found = tableIn(member, false)
    if (found) return found
  }
  return null
}

const isObject = (v: unknown): boolean => typeof v === 'object' && v !== null
/** Of a table that is written column by column, each by the numbers of its rows. */
const isNumbered = (v: Record<string, unknown>): boolean =>
  (keys => keys.length > 1 && keys.every(k => /^\d+$/.test(k)))(Object.keys(v))

function ofRows(names: Values, rows: readonly Values[]): Named[] | null {
  if (names.length < 2 || !names.every(n => typeof n === 'string')) return null
  return names.map((name, i) => [String(name), rows.map(r => r[i])])
}

/** Values of any kind take more room than numbers do. */
const CELLS_TO_NUMBERS = 8
/** Records within records that are looked into. */
const MOST_WITHIN = 8

function ofRecords(records: readonly Record<string, unknown>[]): Named[] {
  const columns = new Map<string, unknown[]>()
  const put = (record: Record<string, unknown>, row: number, before: string, depth: number): void => {
    if (depth > MOST_WITHIN) throw notTable()
    for (const [key, value] of Object.entries(record)) {
      const name = `${before}${key}`
      if (isRecord(value)) {
        put(value, row, `${name}.`, depth + 1)
        continue
      }
      let column = columns.get(name)
      if (!column) {
        assertRoom(records.length * CELLS_TO_NUMBERS, columns.size + 1)
        columns.set(name, (column = Array<unknown>(records.length).fill(null)))
      }
      column[row] = value
    }
  }
  records.forEach((r, row) => put(r, row, '', 0))
  return [...columns]
}

function columnOf(name: string, values: Values): ColumnTable['columns'][number] {
  const stamps = values.map(v => (typeof v === 'string' ? readStamp(v) : null))
  const first = stamps.find(s => s !== null)
  // A column of stamps counts from the full second of its first.
  if (first && values.every((v, i) => stamps[i] !== null || v === null || v === ''))
    return {
      name,
      unit: 's',
      values: Float64Array.from(stamps, s => (s ? s.whole - first.whole + s.fraction : NaN)),
      from: first.whole,
    }
  return { name, unit: unitSaid(name, ''), values: Float64Array.from(values, numberIn), ...lostIn(values) }
}

function numberIn(v: unknown): number {
  if (typeof v === 'number') return v
  if (typeof v === 'boolean') return Number(v)
  return typeof v === 'string' ? cellNumber(v.trim(), 'point') : NaN
}

/** What is neither a number nor a gap, where the column has numbers as well. */
function lostIn(values: Values): Pick<ColumnTable['columns'][number], 'lost'> {
  const isLost = (v: unknown) => v !== null && v !== undefined && Number.isNaN(numberIn(v)) && !isGap(String(v).trim())
  const count = values.filter(isLost).length
  return count > 0 ? { lost: { count, row: values.findIndex(isLost) + 1 } } : {}
}
