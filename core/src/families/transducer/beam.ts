import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Reduction } from '../../method/reduction'
import { fallTo } from '../../signal/fall'
import { cumulativeIntegral, indexOfMax } from '../../signal/rising'
import type { TransducerSettings } from './settings'
import { responses } from './responses'

const WIDTH_DOWN = 3
/** A null is passed once the level has risen by so much above it, dB. */
const RISEN = 1

/**
 * Beam pattern: width at three decibels down, largest side lobe beyond the first nulls, directivity index.
 *
 * @param table  angle [rad], level [dB]
 * @throws HypometError `data-range` below five rows
 * @source Urick, Principles of Underwater Sound, ch. 3; methods.md, “transducer”
 */
export function reduceBeam({ channels }: Table, s: TransducerSettings): Reduction {
  const raw = channels['angle']!
  const order = Array.from(raw.keys()).sort((a, b) => raw[a]! - raw[b]!)
  const angle = Float64Array.from(order, i => raw[i]!)
  const level = Float64Array.from(order, i => channels['level']![i]!)
  if (angle.length < 5)
    throw new HypometError('data-range', 'A pattern needs at least five rows.', { path: 'channels.angle' })
  const at = indexOfMax(level)
  const peak = level[at]!
  const [left, right] = [
    fallTo(level, at, -1, peak - WIDTH_DOWN, angle),
    fallTo(level, at, 1, peak - WIDTH_DOWN, angle),
  ]
  const [low, high] = [nullOf(level, at, -1), nullOf(level, at, 1)]
  const beyond = [...level.subarray(0, low ?? 0), ...level.subarray(high === null ? level.length : high + 1)]
  const power = level.map((v, i) => 10 ** ((v - peak) / 10) * Math.abs(Math.sin(angle[i]!)))
  const lobes = [
    ...(low === null ? [] : [{ side: 'left', null: angle[low]!, level: largest(level.subarray(0, low)) - peak }]),
    ...(high === null ? [] : [{ side: 'right', null: angle[high]!, level: largest(level.subarray(high + 1)) - peak }]),
  ]
  const width = left === null || right === null ? null : right - left
  return {
    results: {
      ...responses(s),
      beamwidth3dB: exact(width, 'rad'),
      maxSidelobe: exact(beyond.length > 0 ? Math.max(...beyond) - peak : null, 'dB'),
      directivityIndex: exact(10 * Math.log10(4 / cumulativeIntegral(angle, power).at(-1)!), 'dB'),
    },
    tables: lobes.length > 0 ? { sidelobes: tableOf(lobes, { side: '', null: 'rad', level: 'dB' }) } : {},
    warnings: [
      ...(width === null
        ? [{ code: 'no-width', message: 'The level does not fall by 3 dB on both sides: turn it farther.' }]
        : []),
      ...(beyond.length > 0
        ? []
        : [{ code: 'no-sidelobe', message: 'No null was passed: there is no side lobe to tell.' }]),
    ],
    traces: { angle, level, ...(left === null || right === null ? {} : { width: Float64Array.of(left, right) }) },
  }
}

const largest = (y: Float64Array): number => y.reduce((m, v) => Math.max(m, v), -Infinity)

/** The lowest row passed before the level has risen by a decibel above it; null where it never rises. */
function nullOf(level: Float64Array, peak: number, step: -1 | 1): number | null {
  let lowest = peak
  for (let i = peak + step; i >= 0 && i < level.length; i += step) {
    if (level[i]! < level[lowest]!) lowest = i
    else if (level[i]! >= level[lowest]! + RISEN) return lowest
  }
  return null
}
