import { meanRead } from '../statistics/mean'
import type { Table } from './table'

/** A place is held within this share of the widest way, and its beginning is left out as settling. */
const WITHIN = 0.01
const SETTLES = 0.3
const FEWEST = 3

/**
 * The rows of a run that stood at one place after another: of each hold the means of what was read, at the place that
 * was planned. The way between two places is no row; nor is a hold of fewer than three samples.
 *
 * @param roles  what was set, one value of each place for each
 * @param places  as planned, SI
 */
export function heldRows(table: Table, roles: readonly string[], places: readonly (readonly number[])[]): Table {
  const set = roles.map(r => table.channels[r]!)
  const widths = roles.map((_, k) => {
    const all = places.map(p => p[k]!)
    return WITHIN * Math.max(Math.max(...all) - Math.min(...all), ...all.map(Math.abs), 1e-9)
  })
  const placeAt = (i: number) => places.findIndex(p => p.every((v, k) => Math.abs(set[k]![i]! - v) <= widths[k]!))
  const held: { from: number; to: number; place: number }[] = []
  for (let i = 0; i < table.t.length; i++) {
    const place = placeAt(i)
    const last = held.at(-1)
    if (place < 0) continue
    if (last?.place === place && last.to === i) last.to = i + 1
    else held.push({ from: i, to: i + 1, place })
  }
  const rows = held
    .map(h => ({ ...h, from: h.from + Math.floor(SETTLES * (h.to - h.from)) }))
    .filter(h => h.to - h.from >= FEWEST)
  const channels = Object.fromEntries(
    Object.entries(table.channels).map(([role, y]) => {
      const k = roles.indexOf(role)
      return [role, Float64Array.from(rows, h => (k < 0 ? meanRead(y.subarray(h.from, h.to)) : places[h.place]![k]!))]
    }),
  )
  return { t: new Float64Array(0), units: table.units, channels }
}
