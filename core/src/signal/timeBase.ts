export type Interpolation = 'nearest' | 'linear' | 'hold'

/**
 * A channel on another clock. Outside its own record, and inside its gaps, the result is a gap: nothing is made up.
 *
 * @param t, y  the channel's own rising times and values, gaps NaN
 * @param onto  rising times wanted
 * @param how  nearest sample; straight between samples; or the last one before (zero-order hold)
 * @param longest  s; samples further apart than this have a gap between them
 */
export function resample(
  t: Float64Array,
  y: Float64Array,
  onto: Float64Array,
  how: Interpolation,
  longest = Infinity,
): Float64Array {
  const out = new Float64Array(onto.length).fill(NaN)
  const n = t.length
  let i = 0
  for (let k = 0; k < onto.length; k++) {
    const time = onto[k]!
    if (n === 0 || time < t[0]! - 1e-9 || time > t[n - 1]! + 1e-9) continue
    while (i + 1 < n && t[i + 1]! <= time + 1e-9) i++
    // Stamps that mean the same instant; at millions of samples a second they lie closer than a nanosecond.
    const same = i + 1 < n ? Math.min(1e-9, 1e-3 * (t[i + 1]! - t[i]!)) : Infinity
    if (Math.abs(time - t[i]!) <= same) {
      out[k] = y[i]!
      continue
    }
    const width = t[i + 1]! - t[i]!
    if (width > longest) continue
    const share = (time - t[i]!) / width
    out[k] =
      how === 'hold'
        ? y[i]!
        : how === 'nearest'
          ? share <= 0.5
            ? y[i]!
            : y[i + 1]!
          : y[i]! + share * (y[i + 1]! - y[i]!)
  }
  return out
}
