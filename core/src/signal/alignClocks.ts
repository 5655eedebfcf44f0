import { HypometError } from '../error'
import { findLag } from './lag'
import { resample } from './timeBase'

export interface Alignment {
  /** s, to be added to the second record's time so that it agrees with the first. */
  offset: number
  /** Of what both recorded, at that offset, −1 … 1. */
  correlation: number
  /** Whether the best offset found is the largest that was looked at. */
  isAtLimit: boolean
  /** s, apart of the samples that were compared at last. */
  interval: number
}

const COARSE = 8192
const FINE = 65_536
/** Samples in common that are worth comparing. */
const FEWEST = 16

/**
 * How far one logger's clock is from another's, from a channel of each that saw the same event: first over both records
 * with a few thousand samples, then near the peak with as many as the records have.
 *
 * @param a, b  rising times, s, and values, gaps NaN
 * @param most  s; offsets up to this are looked at
 * @throws HypometError `data-range` where there is nothing to compare
 */
export function alignClocks(
  a: { t: Float64Array; y: Float64Array },
  b: { t: Float64Array; y: Float64Array },
  most: number,
): Alignment {
  const from = Math.min(a.t[0]!, b.t[0]! - most)
  const to = Math.max(a.t.at(-1)!, b.t.at(-1)! + most)
  const own = Math.max(intervalOf(a.t), intervalOf(b.t))
  const coarse = Math.max((to - from) / COARSE, own, most / COARSE)
  const first = lagOn(a, b, { from, to, interval: coarse, most, shift: 0 })
  const found = (offset: number, interval: number, isAtLimit: boolean): Alignment => ({
    offset,
    correlation: likeness(a, b, offset, interval),
    isAtLimit,
    interval,
  })
  if (coarse <= own * 1.01 || first.isAtLimit) return found(first.offset, coarse, first.isAtLimit)
  // What both saw, once more, as finely as the slower of them sampled.
  const begin = Math.max(a.t[0]!, b.t[0]! + first.offset)
  const end = Math.min(a.t.at(-1)!, b.t.at(-1)! + first.offset)
  const interval = Math.max(own, (end - begin) / FINE)
  if (!(interval < coarse) || !((end - begin) / interval >= FEWEST)) return found(first.offset, coarse, false)
  const second = lagOn(a, b, { from: begin, to: end, interval, most: 2 * coarse, shift: first.offset })
  return found(first.offset + second.offset, interval, false)
}

function lagOn(
  a: { t: Float64Array; y: Float64Array },
  b: { t: Float64Array; y: Float64Array },
  o: { from: number; to: number; interval: number; most: number; shift: number },
): { offset: number; isAtLimit: boolean } {
  const n = Math.floor((o.to - o.from) / o.interval) + 1
  const onto = Float64Array.from({ length: n }, (_, i) => o.from + i * o.interval)
  const x = levelled(resample(a.t, a.y, onto, 'linear'))
  const y = levelled(
    resample(
      b.t.map(v => v + o.shift),
      b.y,
      onto,
      'linear',
    ),
  )
  const { lag, isAtLimit } = findLag(x, y, o.interval, o.most)
  return { offset: -lag || 0, isAtLimit }
}

/** Correlation of the stretch that both recorded. */
function likeness(
  a: { t: Float64Array; y: Float64Array },
  b: { t: Float64Array; y: Float64Array },
  offset: number,
  interval: number,
): number {
  const from = Math.max(a.t[0]!, b.t[0]! + offset)
  const n = Math.max(0, Math.floor((Math.min(a.t.at(-1)!, b.t.at(-1)! + offset) - from) / interval) + 1)
  const onto = Float64Array.from({ length: n }, (_, i) => from + i * interval)
  const x = levelled(resample(a.t, a.y, onto, 'linear'))
  const y = levelled(
    resample(
      b.t.map(v => v + offset),
      b.y,
      onto,
      'linear',
    ),
  )
  let [xy, xx, yy] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    xy += x[i]! * y[i]!
    xx += x[i]! * x[i]!
    yy += y[i]! * y[i]!
  }
  return xy / Math.sqrt(xx * yy)
}

/** Less its mean, gaps at the mean: what is not there says nothing. */
function levelled(y: Float64Array): Float64Array {
  let [sum, n] = [0, 0]
  for (const v of y)
    if (v === v) {
      sum += v
      n++
    }
  if (n < FEWEST) throw new HypometError('data-range', 'The two records have too little in common to be compared.')
  const mean = sum / n
  let squares = 0
  const level = y.map(v => {
    const d = v === v ? v - mean : 0
    squares += d * d
    return d
  })
  if (squares === 0) throw new HypometError('data-range', 'A channel that never changes cannot tell the time.')
  return level
}

const intervalOf = (t: Float64Array): number => (t.at(-1)! - t[0]!) / Math.max(1, t.length - 1)
