/** Whether any sample is missing. A sum shows it in one pass without a branch; only what is odd is looked at again. */
export function hasGap(y: Float64Array): boolean {
  let [a, b, c, d] = [0, 0, 0, 0]
  const whole = y.length & ~3
  for (let i = 0; i < whole; i += 4) {
    a += y[i]!
    b += y[i + 1]!
    c += y[i + 2]!
    d += y[i + 3]!
  }
  for (let i = whole; i < y.length; i++) a += y[i]!
  return Number.isNaN(a + b + c + d) && y.some(Number.isNaN)
}
