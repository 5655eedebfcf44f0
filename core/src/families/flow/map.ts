import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { rowsWhere, rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, Result, ResultTable } from '../../method/reduction'
import { indexOfMax } from '../../signal/rising'
import { meanSd } from '../../statistics/mean'
import type { Warning } from '../../warning'
import { densityOf } from './air'
import { comparedOf } from './names'
import type { FlowSettings } from './settings'

/** Places within this are one, m. */
const SAME_PLACE = 1e-4

interface Map {
  x: Float64Array
  y: Float64Array
  v: Float64Array
}

/**
 * Velocities of a probe map: their mean, how even they are, and where the largest is; of two configurations also how
 * they differ place by place, and what became of the baseline's largest. A negative dynamic pressure is a flow back.
 *
 * @param table  x, y [m], q [Pa] or v [m/s], temperature [K], baro [Pa], config [words, all optional]
 * @throws HypometError `missing-channel` without q and v, `no-data` without a velocity, `setting-range`
 * @source methods.md, “flow”
 */
export function reduceMap(table: Table, s: FlowSettings): Reduction {
  const rows = rowsWith(withVelocity(table), ['x', 'y', 'v'])
  const config = rows.text?.['config']
  const names = [...new Set(config ?? [''])]
  const [baseline, subject] = comparedOf(names, s)
  const of = (name: string): Map => {
    const { channels } = config ? rowsWhere(rows, i => config[i] === name) : rows
    return { x: channels['x']!, y: channels['y']!, v: channels['v']! }
  }
  const map = of(subject)
  if (map.v.length === 0) throw new HypometError('no-data', 'No place has a velocity.', { path: 'channels.v' })
  const { mean } = meanSd(map.v)
  const peak = indexOfMax(map.v)
  const spread = map.v.reduce((sum, v) => sum + Math.abs(v - mean), 0)
  const warnings: Warning[] = map.v.some(v => v < 0)
    ? [{ code: 'reverse-flow', message: 'At some places the flow runs back.' }]
    : []
  const difference = baseline === subject ? null : differenceOf(of(baseline), map, mean, warnings)
  return {
    results: {
      meanVelocity: exact(mean, 'm/s'),
      peakVelocity: exact(map.v[peak]!, 'm/s'),
      uniformity: exact(1 - spread / (2 * map.v.length * mean), '1'),
      peakToMean: exact(map.v[peak]! / mean, '1'),
      peakX: exact(map.x[peak]!, 'm'),
      peakY: exact(map.y[peak]!, 'm'),
      ...(difference
        ? {
            hotX: exact(map.x[peak]!, 'm'),
            hotY: exact(map.y[peak]!, 'm'),
            hotVelocity: exact(map.v[peak]!, 'm/s'),
            hotAtBaseline: difference.hotAtBaseline,
          }
        : {}),
    },
    tables: difference ? { difference: difference.table } : {},
    traces: { x: map.x, y: map.y, velocity: map.v },
    warnings,
  }
}

/** A velocity at each place: as read, else of the dynamic pressure. */
function withVelocity(table: Table): Table {
  const { channels } = table
  if (channels['v']) return table
  const q = channels['q']
  if (!q)
    throw new HypometError('missing-channel', 'A map needs velocities, or dynamic pressures.', { path: 'channels.v' })
  const v = q.map((p, i) => Math.sign(p) * Math.sqrt((2 * Math.abs(p)) / densityOf(channels, i)))
  return { ...table, channels: { ...channels, v } }
}

/** Velocity of a map at a place: of its nearest row, the first of equals; null where none is near enough. */
function velocityAt({ x, y, v }: Map, at: { x: number; y: number }): number | null {
  let [nearest, found] = [SAME_PLACE, null as number | null]
  for (let i = 0; i < v.length; i++) {
    const away = Math.hypot(x[i]! - at.x, y[i]! - at.y)
    if (away > nearest || (away === nearest && found !== null)) continue
    nearest = away
    found = v[i]!
  }
  return found
}

function differenceOf(
  baseline: Map,
  subject: Map,
  mean: number,
  warnings: Warning[],
): { table: ResultTable; hotAtBaseline: Result } {
  const rows = Array.from(baseline.v, (v, i) => {
    const place = { x: baseline.x[i]!, y: baseline.y[i]! }
    const here = velocityAt(subject, place)
    return { ...place, here, dv: here === null ? null : here - v }
  })
  if (rows.some(r => r.here === null))
    warnings.push({
      code: 'grid-differs',
      message: 'Some places of the baseline were not read again: nothing is told of what changed there.',
    })
  const hot = rows[indexOfMax(baseline.v)]?.here ?? null
  return {
    table: tableOf(
      rows.map(({ x, y, dv }) => ({ x, y, dv })),
      { x: 'm', y: 'm', dv: 'm/s' },
    ),
    hotAtBaseline: exact(hot === null ? null : hot / mean, '1'),
  }
}
