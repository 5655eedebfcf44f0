import type { SniffedColumn } from './sniff'

/** Rows of time, what was seen, and its readings, brought side by side: one row a time, columns by what was seen. */
export interface Pivoted {
  times: Float64Array
  /** In the order of their first rows. */
  keys: string[]
  /** By key, then as `values`; a gap where a key has no row at that time. */
  columns: Float64Array[][]
  /** Rows left out: without a time, or of a key that had one at that time. */
  lost: { untimed: number; repeated: number }
  /** The first row whose time lies before that of its own key's row above; sorting it in would be a guess. */
  back: number | null
}

/** Brings rows side by side. Of two rows of one key at one time the first is taken. */
export function pivotRows(t: Float64Array, keys: readonly string[], values: readonly Float64Array[]): Pivoted {
  const times = Float64Array.from([...new Set(t)].filter(v => !Number.isNaN(v)).sort((a, b) => a - b))
  const at = new Map([...times].map((v, i) => [v, i]))
  const found = new Map<string, { isSeen: Uint8Array; columns: Float64Array[]; last: number }>()
  let back: number | null = null
  const lost = { untimed: 0, repeated: 0 }
  const empty = () => new Float64Array(times.length).fill(NaN)
  keys.forEach((key, row) => {
    const i = at.get(t[row]!)
    if (i === undefined) return void lost.untimed++
    let own = found.get(key)
    if (!own) found.set(key, (own = { isSeen: new Uint8Array(times.length), columns: values.map(empty), last: i }))
    if (i < own.last) back ??= row
    own.last = i
    if (own.isSeen[i]) return void lost.repeated++
    own.isSeen[i] = 1
    values.forEach((v, k) => (own.columns[k]![i] = v[row]!))
  })
  return { times, keys: [...found.keys()], columns: [...found.values()].map(f => f.columns), lost, back }
}

/** Names of a column that says of which target a row is. */
const TARGET = /^(target|point|marker|dot|track|ziel|punkt|marke|cible)s?(\s*(id|name|no|nr|#))?\.?$/i
/** A column that says of which channel a row is, beside the one that holds what it read. */
const CHANNEL = /^(channel|sensor|gauge|signal|tag|kanal|voie|variable|name)s?(\s*(id|name|no|nr|#))?\.?$/i
const VALUE = /^(value|reading|wert|messwert|valeur|val)\b/i

/** The name of a column without its unit. */
export const withoutBrackets = (name: string): string => name.replace(/\s*[[({<][^\])}>]*[\])}>]\s*$/, '').trim()

/**
 * Columns by which rows may belong together, and which of them says so: rows of time, target, x, y, z, or of time,
 * channel, value. Null where every row is as good as surely one time.
 */
export function rowsOf(columns: readonly SniffedColumn[]): { columns: string[]; proposed: string | null } | null {
  const named = (pattern: RegExp) => columns.find(c => pattern.test(withoutBrackets(c.name)))
  const target = named(TARGET)
  const places = ['x', 'y'].every(axis => columns.some(c => withoutBrackets(c.name).toLowerCase() === axis))
  const channel = named(CHANNEL)
  const proposed = target && places ? target : channel && !channel.isNumeric && named(VALUE) ? channel : null
  const words = columns.filter(c => !c.isStamps && (!c.isNumeric || c === proposed)).map(c => c.name)
  return words.length > 0 ? { columns: words, proposed: proposed?.name ?? null } : null
}

/** What a channel made of such rows is called. */
export const tallName = (key: string, column: string, isOnly: boolean): string =>
  isOnly ? key : `${key} ${withoutBrackets(column)}`
