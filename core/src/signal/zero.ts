import { HypometError } from '../error'
import { windowRange } from './window'

type Window = readonly [number, number]

/** Mean of the samples of a window that are not gaps. @throws HypometError `setting-range` when there is none */
export function windowMean(t: Float64Array, y: Float64Array, window: Window): number {
  const [from, to] = windowRange(t, window)
  let [sum, n] = [0, 0]
  for (let i = from; i < to; i++)
    if (!Number.isNaN(y[i]!)) {
      sum += y[i]!
      n++
    }
  if (n === 0) throw new HypometError('setting-range', 'The zero window holds no sample.', { path: 'settings.zeroStart' })
  return sum / n
}

/** Takes the mean over a window off a channel. */
export function zeroed(t: Float64Array, y: Float64Array, window: Window): Float64Array {
  const mean = windowMean(t, y, window)
  return y.map(v => v - mean)
}

/**
 * Takes off a zero that drifts linearly between the middles of a first and a last zero window; before the first and
 * after the last it goes on along the same line.
 */
export function driftZeroed(t: Float64Array, y: Float64Array, first: Window, last: Window): Float64Array {
  const [a, b] = [windowMean(t, y, first), windowMean(t, y, last)]
  const [ta, tb] = [(first[0] + first[1]) / 2, (last[0] + last[1]) / 2]
  if (!(tb > ta)) throw new HypometError('setting-range', 'The last zero window must come after the first.', { path: 'settings.zeroEnd' })
  return y.map((v, i) => v - (a + ((b - a) * (t[i]! - ta)) / (tb - ta)))
}
