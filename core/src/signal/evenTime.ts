import { HypometError } from '../error'
import type { Warning } from '../warning'

const LONGEST_GAP = 3
const UNEVENNESS = 0.2

/**
 * Interval of an even time base, (last − first)/(n − 1).
 *
 * @throws HypometError `data-range` below two samples, `uneven-time` when an interval is off the mean by more than 20 %
 */
export function evenInterval(t: Float64Array): number {
  const n = t.length
  if (n < 2)
    throw new HypometError('data-range', 'At least two samples are needed for a time base.', { path: 'channels.t' })
  const mean = (t[n - 1]! - t[0]!) / (n - 1)
  for (let i = 1; i < n; i++)
    if (Math.abs(t[i]! - t[i - 1]! - mean) > UNEVENNESS * mean)
      throw new HypometError(
        'uneven-time',
        `An even time base is needed, but at ${t[i - 1]} s the interval is ${(t[i]! - t[i - 1]!).toPrecision(4)} ` +
          `s where ${mean.toPrecision(4)} s is usual.`,
        { path: 'channels.t' },
      )
  return mean
}

/**
 * A copy whose gaps of up to three samples are filled linearly; gaps at either end are not.
 *
 * @param needed  whether a longer gap is an error; it stays otherwise
 * @returns  the copy, and whether anything was filled
 * @throws   HypometError `uneven-time` for a longer gap
 */
export function fillGaps(read: Float64Array, role: string, needed: boolean): { y: Float64Array; filled: boolean } {
  const y = read.slice()
  let filled = false
  for (let i = 0; i < y.length; i++) {
    if (!Number.isNaN(y[i]!)) continue
    let end = i
    while (end < y.length && Number.isNaN(y[end]!)) end++
    if (end - i > LONGEST_GAP || i === 0 || end === y.length) {
      if (needed)
        throw new HypometError(
          'uneven-time',
          `${role} has a gap of ${end - i} samples; at most ${LONGEST_GAP} between readings can be filled.`,
          { path: `channels.${role}` },
        )
      i = end
      continue
    }
    const step = (y[end]! - y[i - 1]!) / (end - i + 1)
    for (let j = i; j < end; j++) y[j] = y[i - 1]! + step * (j - i + 1)
    filled = true
    i = end
  }
  return { y, filled }
}

export const GAP_FILLED: Warning = { code: 'gap-filled', message: 'Gaps of up to three samples were filled linearly.' }
