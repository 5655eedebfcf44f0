/**
 * How many independent readings as many residuals are worth: n/(1 + 2·Σ(1 − j/n)·r_j), their autocorrelations r_j up to
 * the first that is not above zero. Residuals whose neighbours hardly hang together, r₁ ≤ 2/√n, count as they are.
 *
 * @param e  residuals, mean near zero
 * @source Priestley, Spectral Analysis and Time Series, 5.3; Box, Jenkins & Reinsel, ch. 2
 */
export function effectiveCount(e: Float64Array): number {
  const n = e.length
  const own = e.reduce((sum, v) => sum + v * v, 0)
  if (!(own > 0)) return n
  let sum = 0
  for (let j = 1; j < n; j++) {
    let r = 0
    for (let i = j; i < n; i++) r += e[i]! * e[i - j]!
    r /= own
    if (r <= (j === 1 ? 2 / Math.sqrt(n) : 0)) break
    sum += (1 - j / n) * r
  }
  return n / (1 + 2 * sum)
}
