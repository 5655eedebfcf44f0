import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction } from '../../method/reduction'
import { fallTo } from '../../signal/fall'
import { cumulativeIntegral } from '../../signal/rising'
import type { TransducerSettings } from './settings'
import { topOf } from './lobe'
import { responses } from './responses'

const WIDTH_DOWN = 3
/** A null is passed once the level has risen by so much above it, dB. */
const RISEN = 1

/** What lies behind a line says nothing new, and what does not reach this near to its side is a part, rad. */
const [BEHIND, NEAR_SIDE] = [1e-6, 0.02]
const FEWEST = 3

/**
 * Beam pattern: width at three decibels down, largest side lobe beyond the first nulls, directivity index of a body of
 * revolution about angle 0, or of a line that angle 0 is perpendicular to.
 *
 * @param table  angle [rad], level [dB]
 * @throws HypometError `data-range` below three rows
 * @source Urick, Principles of Underwater Sound, ch. 3; methods.md, “transducer”
 */
export function reduceBeam(table: Table, s: TransducerSettings): Reduction {
  const { angle, level } = pattern(rowsWith(table, ['angle', 'level']), s)
  if (angle.length < FEWEST)
    throw new HypometError('data-range', 'A pattern needs at least three rows.', { path: 'channels.angle' })
  const top = topOf(angle, level)
  const [left, right] = [
    fallTo(level, top.row, -1, top.level - WIDTH_DOWN, angle),
    fallTo(level, top.row, 1, top.level - WIDTH_DOWN, angle),
  ]
  const [low, high] = [nullOf(level, top.row, -1), nullOf(level, top.row, 1)]
  const lobes = [
    ...(low === null
      ? []
      : [{ side: 'left', null: angle[low]!, level: largest(level.subarray(0, low + 1)) - top.level }]),
    ...(high === null ? [] : [{ side: 'right', null: angle[high]!, level: largest(level.subarray(high)) - top.level }]),
  ]
  const width = left === null || right === null ? null : right - left
  return {
    results: {
      ...responses(s),
      peakAngle: exact(top.at, 'rad'),
      peakLevel: exact(top.level, 'dB'),
      beamwidth3dB: exact(width, 'rad'),
      maxSidelobe: exact(lobes.length > 0 ? Math.max(...lobes.map(l => l.level)) : null, 'dB'),
      directivityIndex: exact(directivityIndex(angle, level, top.level, s), 'dB'),
    },
    tables: lobes.length > 0 ? { sidelobes: tableOf(lobes, { side: '', null: 'rad', level: 'dB' }) } : {},
    warnings: [
      ...(width === null
        ? [{ code: 'no-width', message: 'The level does not fall by 3 dB on both sides: turn it farther.' }]
        : []),
      ...(lobes.length > 0
        ? []
        : [{ code: 'no-sidelobe', message: 'No null was passed: there is no side lobe to tell.' }]),
      ...(angle[0]! > -Math.PI / 2 + NEAR_SIDE || angle.at(-1)! < Math.PI / 2 - NEAR_SIDE
        ? [
            {
              code: 'partial-beam',
              message: 'The pattern does not reach from −90° to 90°: what lies beyond is silent in the index.',
            },
          ]
        : []),
    ],
    traces: { angle, level, ...(left === null || right === null ? {} : { width: Float64Array.of(left, right) }) },
  }
}

/** Rows by angle; of a line those of one side, for the other is the same beam. */
function pattern({ channels }: Table, s: TransducerSettings): { angle: Float64Array; level: Float64Array } {
  const [raw, levels] = [channels['angle']!, channels['level']!]
  const order = Array.from(raw.keys())
    .filter(i => s.symmetry === 'rotational' || Math.abs(raw[i]!) <= Math.PI / 2 + BEHIND)
    .sort((a, b) => raw[a]! - raw[b]!)
  return { angle: Float64Array.from(order, i => raw[i]!), level: Float64Array.from(order, i => levels[i]!) }
}

/** Level on the axis against the mean over all directions, dB. */
function directivityIndex(angle: Float64Array, level: Float64Array, peak: number, s: TransducerSettings): number {
  const isLine = s.symmetry === 'line'
  const weight = (a: number) => (isLine ? Math.cos(a) : Math.abs(Math.sin(a)))
  const power = level.map((v, i) => 10 ** ((v - peak) / 10) * weight(angle[i]!))
  return 10 * Math.log10((isLine ? 2 : 4) / cumulativeIntegral(angle, power).at(-1)!)
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
