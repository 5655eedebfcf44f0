import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import { noSlope, rowsWith, zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result } from '../../method/reduction'
import { cumulativeIntegral, indexOfMax, risingLine } from '../../signal/rising'
import type { Warning } from '../../warning'
import type { TorqueSettings } from './settings'

const STIFFNESS = [0.2, 0.5] as const

/**
 * Torque reduction: stiffness, the torque at which the curve leaves its line by an offset, and the largest.
 *
 * @param table  torque [N·m], twist [rad]; t only for a zero window
 * @throws HypometError `no-event` where the torque never rises
 * @source methods.md, “torque”
 */
export function reduceTorque(table: Table, s: TorqueSettings): Reduction {
  if (s.zeroStart && table.t.length === 0)
    throw new HypometError('missing-channel', 'A zero window needs a channel of time.', { path: 'channels.t' })
  const warnings: Warning[] = []
  const zeroed = zeroedRows(table, ['torque', 'twist'], s.zeroStart, warnings)
  // What the row of the largest torque lacks, the rows up to it may have.
  const place = indexOfMax(zeroed.channels['torque']!)
  const peak = zeroed.channels['torque']![place]!
  if (!(peak > 0)) throw new HypometError('no-event', 'The torque never rises above zero.', { path: 'channels.torque' })
  const { t, channels } = rowsWith(zeroed, ['torque', 'twist'])
  const [torque, twist] = [channels['torque']!, channels['twist']!]
  const last = bothUpTo(zeroed, place) - 1
  const hasPeak = !Number.isNaN(zeroed.channels['twist']![place]!)
  if (!hasPeak)
    warnings.push({ code: 'gap', message: 'No twist was read at the largest torque: the energy ends before it.' })
  const line = risingLine(twist, torque, torque, last, STIFFNESS, peak)
  if (!line) warnings.push(noSlope('No stiffness, and no yield torque'))
  const yieldTorque = line && offsetYield(twist, torque, last, line, s.offset, peak)
  if (line && yieldTorque === null)
    warnings.push({
      code: 'no-yield',
      message: 'The curve does not leave its line by the offset: it did not yield by that measure.',
    })
  const bound: Bound = s.outcome === 'article' ? 'exact' : 'atLeast'
  const bounded = (value: number, unit: string): Result => ({ value, unit, bound })
  const energy = last < 0 ? null : cumulativeIntegral(twist.subarray(0, last + 1), torque.subarray(0, last + 1))[last]!
  return {
    results: {
      stiffness: exact(line?.slope ?? null, 'N·m/rad'),
      yieldTorque: exact(yieldTorque, 'N·m'),
      ultimateTorque: bounded(peak, 'N·m'),
      twistAtPeak: exact(hasPeak ? twist[last]! : null, 'rad'),
      energyToPeak: { value: energy, unit: 'J', bound: hasPeak ? 'exact' : 'atLeast' },
      factor: bounded(peak / s.requiredTorque, '1'),
    },
    tables: {},
    warnings,
    traces: { twist, torque, t, ...(line ? { line: Float64Array.of(line.slope, line.intercept) } : {}) },
  }
}

/** How many rows up to one have torque and twist both. */
function bothUpTo({ channels }: Table, last: number): number {
  const [torque, twist] = [channels['torque']!, channels['twist']!]
  let n = 0
  for (let i = 0; i <= last; i++) if (!Number.isNaN(torque[i]! + twist[i]!)) n++
  return n
}

/** First crossing, from above, of the line moved by the offset, past half of the peak; null where there is none. */
function offsetYield(
  twist: Float64Array,
  torque: Float64Array,
  peak: number,
  { slope, intercept }: { slope: number; intercept: number },
  offset: number,
  largest: number,
): number | null {
  const above = (i: number) => torque[i]! - (slope * (twist[i]! - offset) + intercept)
  let from = 0
  for (let i = 0; i <= peak; i++) if (torque[i]! <= STIFFNESS[1] * largest) from = i
  for (let i = from; i < peak; i++) {
    const [a, b] = [above(i), above(i + 1)]
    if (a > 0 && b <= 0) return torque[i]! + (a / (a - b)) * (torque[i + 1]! - torque[i]!)
  }
  return null
}
