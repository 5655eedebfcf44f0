/** Mean and sample standard deviation (n − 1; NaN below two). Two passes, so that a large offset costs no digits. */
export function meanSd(values: ArrayLike<number>): { mean: number; sd: number; n: number } {
  const n = values.length
  let sum = 0
  for (let i = 0; i < n; i++) sum += values[i]!
  const mean = sum / n
  let squares = 0
  for (let i = 0; i < n; i++) squares += (values[i]! - mean) ** 2
  return { mean, sd: n > 1 ? Math.sqrt(squares / (n - 1)) : NaN, n }
}

/** Mean of what was read: gaps are passed over; NaN where all are gaps. */
export function meanRead(y: ArrayLike<number>): number {
  let sum = 0
  let n = 0
  for (let i = 0; i < y.length; i++) {
    const v = y[i]!
    // A gap is not equal to itself.
    if (v !== v) continue
    sum += v
    n++
  }
  return sum / n
}
