import { HypometError } from '../error'
import { meanSd } from '../statistics/mean'
import { hasGap } from './gaps'
import { windowRange } from './window'

type Window = readonly [number, number]

/**
 * Mean and standard deviation of the samples of a window that are not gaps.
 *
 * @param setting  name of the window, for the error's place
 * @throws HypometError `setting-range` when the window holds no sample of the channel
 */
export function windowStatistics(
  t: Float64Array,
  y: Float64Array,
  window: Window,
  setting = 'zeroStart',
): { mean: number; sd: number; n: number } {
  const [from, to] = windowRange(t, window)
  const all = y.subarray(from, to)
  const values = hasGap(all) ? all.filter(v => !Number.isNaN(v)) : all
  if (values.length === 0)
    throw new HypometError('setting-range', 'The zero window holds no sample.', { path: `settings.${setting}` })
  return meanSd(values)
}

/** Takes the mean over a window off a channel; one that has only gaps there is left as it is. */
export function zeroed(t: Float64Array, y: Float64Array, window: Window): Float64Array {
  const [from, to] = windowRange(t, window)
  if (to > from && Number.isNaN(y[from]!) && y.subarray(from, to).every(Number.isNaN)) return y
  const { mean } = windowStatistics(t, y, window)
  const off = new Float64Array(y.length)
  for (let i = 0; i < y.length; i++) off[i] = y[i]! - mean
  return off
}

/**
 * Takes off a zero that drifts linearly between the middles of a first and a last zero window; before the first and
 * after the last it goes on along the same line.
 */
export function driftZeroed(t: Float64Array, y: Float64Array, first: Window, last: Window): Float64Array {
  const [a, b] = [windowStatistics(t, y, first).mean, windowStatistics(t, y, last, 'zeroEnd').mean]
  const [ta, tb] = [(first[0] + first[1]) / 2, (last[0] + last[1]) / 2]
  if (!(tb > ta))
    throw new HypometError('setting-range', 'The last zero window must come after the first.', {
      path: 'settings.zeroEnd',
    })
  return y.map((v, i) => v - (a + ((b - a) * (t[i]! - ta)) / (tb - ta)))
}
