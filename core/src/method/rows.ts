import { HypometError } from '../error'
import { fillGaps, GAP_FILLED } from '../signal/evenTime'
import { hasGap } from '../signal/gaps'
import { windowRange } from '../signal/window'
import { zeroed } from '../signal/zero'
import type { Warning } from '../warning'
import type { Role, Table, TimeBase } from './table'

/**
 * Rows in which all of these roles were read: what a result is worked out from, whatever else those rows lack. The same
 * table, not a copy, where no row is to be left out; roles that are not there are not asked for.
 */
export function rowsWith(table: Table, roles: readonly string[]): Table {
  const asked = roles.flatMap(r => (r === 't' ? [table.t] : (table.channels[r] ?? []))).filter(hasGap)
  return asked.length === 0 ? table : rowsWhere(table, i => asked.every(y => !Number.isNaN(y[i]!)))
}

/** Rows of a table for which something holds, in order. */
export function rowsWhere(table: Table, holds: (row: number) => boolean): Table {
  const { t, channels, text } = table
  const length = rowCount(table)
  const all = new Uint32Array(length)
  let count = 0
  for (let i = 0; i < length; i++) if (holds(i)) all[count++] = i
  const kept = all.subarray(0, count)
  const pick = (y: Float64Array) => {
    const picked = new Float64Array(count)
    for (let k = 0; k < count; k++) picked[k] = y[kept[k]!]!
    return picked
  }
  return {
    ...table,
    t: t.length > 0 ? pick(t) : t,
    channels: Object.fromEntries(Object.entries(channels).map(([role, y]) => [role, pick(y)])),
    ...(text
      ? {
          text: Object.fromEntries(
            Object.entries(text).map(([role, words]) => [role, Array.from(kept, i => words[i]!)]),
          ),
        }
      : {}),
  }
}

export const rowCount = ({ t, channels, text = {} }: Table): number =>
  t.length || (Object.values(channels)[0]?.length ?? Object.values(text)[0]?.length ?? 0)

/**
 * A record as a method is given it: where it wants an even time base, gaps of up to three samples are filled; a longer
 * one is left to those roles that may do without.
 *
 * @throws HypometError `no-data` for a needed role without a number, `uneven-time` for a long gap in one
 */
export function readyRows(
  table: Table,
  roles: Record<string, Role>,
  timeBase: TimeBase | undefined,
  warnings: Warning[],
): Table {
  const isNeeded = (role: string) => Object.hasOwn(roles, role) && role !== '*' && !roles[role]!.optional
  for (const [role, y] of Object.entries(table.channels))
    if (isNeeded(role) && y.every(Number.isNaN))
      throw new HypometError('no-data', `“${role}” holds no number in any row that can be used.`, {
        path: `channels.${role}`,
      })
  if (timeBase !== 'even') return table
  const gappy = Object.entries(table.channels).filter(([, y]) => hasGap(y))
  if (gappy.length === 0) return table
  const filled = gappy.map(([role, y]) => [role, fillGaps(y, role, isNeeded(role))] as const)
  if (filled.some(([, y]) => y.filled)) warnings.push(GAP_FILLED)
  return { ...table, channels: { ...table.channels, ...Object.fromEntries(filled.map(([r, y]) => [r, y.y])) } }
}

/**
 * Takes the mean over a window off some roles. One without a reading there cannot be zeroed: it is given as gaps, so
 * that what is worked out from it is not had, and said.
 *
 * @param roles  the first one must have a reading there
 * @throws HypometError `setting-range` where the first has none
 */
export function zeroedRows(
  table: Table,
  roles: readonly string[],
  window: readonly [number, number] | undefined,
  warnings: Warning[],
): Table {
  if (!window) return table
  const [from, to] = windowRange(table.t, window)
  const own = roles.filter(r => table.channels[r])
  const off = own.map((role, k): [string, Float64Array] => {
    const y = table.channels[role]!
    if (k > 0 && !y.subarray(from, to).some(v => !Number.isNaN(v))) {
      warnings.push({
        code: 'no-zero',
        message: `${role} has no reading between ${window[0]} and ${window[1]} s: it has no zero, and no result.`,
      })
      return [role, new Float64Array(y.length).fill(NaN)]
    }
    return [role, zeroed(table.t, y, window)]
  })
  return { ...table, channels: { ...table.channels, ...Object.fromEntries(off) } }
}

/** Warnings of results that had too little to go by; one for each sentence. */
export const noSlope = (what: string): Warning => ({
  code: 'no-slope',
  message: `${what}: fewer than three rows lie in its window, or nothing moves there.`,
})
