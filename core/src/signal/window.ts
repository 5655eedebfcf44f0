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
