import { type Plateau, plateauStatistics } from '../signal/plateaus'
import type { ResultTable } from './reduction'

/**
 * Step table: start, end, n, and mean, standard deviation and creep (least-squares slope × duration) of each channel,
 * over the samples it has.
 *
 * @param channels  SI columns, gaps NaN; `units` their SI units
 */
export function plateauTable(
  t: Float64Array,
  plateaus: Plateau[],
  channels: Record<string, Float64Array>,
  units: Record<string, string>,
): ResultTable {
  const columns: ResultTable['columns'] = {
    start: plateaus.map(p => t[p.from]!),
    end: plateaus.map(p => t[p.to - 1]!),
    n: plateaus.map(p => p.to - p.from),
  }
  const tableUnits: Record<string, string> = { start: 's', end: 's', n: '1' }
  for (const [role, y] of Object.entries(channels)) {
    const rows = plateaus.map(p => plateauStatistics(t, y, p))
    for (const key of ['mean', 'sd', 'creep'] as const) {
      const name = role + key[0]!.toUpperCase() + key.slice(1)
      columns[name] = rows.map(r => r[key])
      tableUnits[name] = units[role] ?? '1'
    }
  }
  return { columns, units: tableUnits }
}
