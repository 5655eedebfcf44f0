/** First index with t ≥ from and first index with t > to, both ends inside to 1e-9 s. @param t rising, s */
export function windowRange(t: Float64Array, [from, to]: readonly [number, number]): [number, number] {
  return [lowerBound(t, from - 1e-9), lowerBound(t, to + 1e-9, true)]
}

function lowerBound(t: Float64Array, x: number, past = false): number {
  let lo = 0
  let hi = t.length
  while (lo < hi) {
    const mid = (lo + hi) >> 1
    if (past ? t[mid]! <= x : t[mid]! < x) lo = mid + 1
    else hi = mid
  }
  return lo
}

/**
 * A window that is to be shown and typed: both ends rounded inward to a tenth of the interval between samples, so that
 * no sample beyond it comes in.
 *
 * @param t  rising times, s
 * @returns  null where nothing is left of it
 */
export function shownWindow(t: Float64Array, from: number, to: number): [number, number] | null {
  const interval = t.length > 1 ? (t[t.length - 1]! - t[0]!) / (t.length - 1) : 1
  const digits = Math.min(12, Math.max(0, 1 - Math.floor(Math.log10(interval))))
  const unit = 10 ** digits
  const [a, b] = [Math.ceil(from * unit - 1e-6) / unit, Math.floor(to * unit + 1e-6) / unit]
  return b > a ? [Number(a.toFixed(digits)), Number(b.toFixed(digits))] : null
}
