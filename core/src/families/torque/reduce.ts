import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result } from '../../method/reduction'
import { cumulativeIntegral, indexOfMax, risingLine } from '../../signal/rising'
import { zeroed } from '../../signal/zero'
import type { TorqueSettings } from './settings'

const STIFFNESS = [0.2, 0.5] as const

/**
 * Torque reduction: stiffness, the torque at which the curve leaves its line by an offset, and the largest.
 *
 * @param table  torque [N·m], twist [rad]; t only for a zero window
 * @throws HypometError `data-range` with fewer than three samples on the elastic part
 * @source methods.md, “torque”
 */
export function reduceTorque({ t, channels }: Table, s: TorqueSettings): Reduction {
  const window = s.zeroStart
  if (window && t.length === 0)
    throw new HypometError('missing-channel', 'A zero window needs a channel of time.', { path: 'channels.t' })
  const [torque, twist] = ['torque', 'twist'].map(r => (window ? zeroed(t, channels[r]!, window) : channels[r]!)) as [
    Float64Array,
    Float64Array,
  ]
  const at = indexOfMax(torque)
  const peak = torque[at]!
  if (!(peak > 0)) throw new HypometError('no-event', 'The torque never rises above zero.', { path: 'channels.torque' })
  const line = risingLine(twist, torque, torque, at, STIFFNESS, 'torque')
  const yieldTorque = offsetYield(twist, torque, at, line, s.offset)
  const bound: Bound = s.outcome === 'article' ? 'exact' : 'atLeast'
  const bounded = (value: number, unit: string): Result => ({ value, unit, bound })
  return {
    results: {
      stiffness: exact(line.slope, 'N·m/rad'),
      yieldTorque: exact(yieldTorque, 'N·m'),
      ultimateTorque: bounded(peak, 'N·m'),
      twistAtPeak: exact(twist[at]!, 'rad'),
      energyToPeak: exact(cumulativeIntegral(twist.subarray(0, at + 1), torque.subarray(0, at + 1))[at]!, 'J'),
      factor: bounded(peak / s.requiredTorque, '1'),
    },
    tables: {},
    warnings:
      yieldTorque === null
        ? [
            {
              code: 'no-yield',
              message: 'The curve does not leave its line by the offset: it did not yield by that measure.',
            },
          ]
        : [],
    traces: { twist, torque, t, line: Float64Array.of(line.slope, line.intercept) },
  }
}

/** First crossing, from above, of the line moved by the offset, past half of the peak; null where there is none. */
function offsetYield(
  twist: Float64Array,
  torque: Float64Array,
  peak: number,
  { slope, intercept }: { slope: number; intercept: number },
  offset: number,
): number | null {
  const above = (i: number) => torque[i]! - (slope * (twist[i]! - offset) + intercept)
  let from = 0
  for (let i = 0; i <= peak; i++) if (torque[i]! <= STIFFNESS[1] * torque[peak]!) from = i
  for (let i = from; i < peak; i++) {
    const [a, b] = [above(i), above(i + 1)]
    if (a > 0 && b <= 0) return torque[i]! + (a / (a - b)) * (torque[i + 1]! - torque[i]!)
  }
  return null
}
