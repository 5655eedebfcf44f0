import { HypometError } from '../error'

export interface LinearFit {
  coefficients: Float64Array
  /** (XᵀX)⁻¹, by rows. */
  inverse: Float64Array[]
  rss: number
}

/**
 * Linear least squares by Householder reflections.
 *
 * @param X  n rows of p columns, n ≥ p
 * @throws HypometError `singular` when columns depend on one another
 * @source Golub & Van Loan, Matrix Computations, 5.3
 */
export function leastSquares(X: readonly ArrayLike<number>[], y: ArrayLike<number>): LinearFit {
  const [n, p] = [X.length, X[0]!.length]
  const A = X.map(row => Float64Array.from(row))
  const b = Float64Array.from(y)
  const norms = Float64Array.from({ length: p }, (_, j) => Math.sqrt(A.reduce((s, row) => s + row[j]! ** 2, 0)))
  for (let j = 0; j < p; j++) {
    let norm = 0
    for (let i = j; i < n; i++) norm += A[i]![j]! ** 2
    norm = Math.sqrt(norm)
    if (!(norm > 1e-12 * norms[j]!)) throw new HypometError('singular', 'The columns depend on one another; the fit has no single answer.')
    const alpha = A[j]![j]! > 0 ? -norm : norm
    const v = Float64Array.from({ length: n - j }, (_, i) => A[i + j]![j]!)
    v[0]! -= alpha
    const vv = v.reduce((s, w) => s + w * w, 0)
    for (let k = j; k < p; k++) {
      let dot = 0
      for (let i = j; i < n; i++) dot += v[i - j]! * A[i]![k]!
      for (let i = j; i < n; i++) A[i]![k]! -= (2 * dot * v[i - j]!) / vv
    }
    let dot = 0
    for (let i = j; i < n; i++) dot += v[i - j]! * b[i]!
    for (let i = j; i < n; i++) b[i]! -= (2 * dot * v[i - j]!) / vv
  }
  const coefficients = backSubstitute(A, b, p)
  let rss = 0
  for (let i = p; i < n; i++) rss += b[i]! ** 2
  return { coefficients, inverse: inverseOf(A, p), rss }
}

function backSubstitute(R: Float64Array[], b: ArrayLike<number>, p: number): Float64Array {
  const x = new Float64Array(p)
  for (let i = p - 1; i >= 0; i--) {
    let sum = b[i]!
    for (let k = i + 1; k < p; k++) sum -= R[i]![k]! * x[k]!
    x[i] = sum / R[i]![i]!
  }
  return x
}

/** (RᵀR)⁻¹ = R⁻¹·R⁻ᵀ. */
function inverseOf(R: Float64Array[], p: number): Float64Array[] {
  const columns = Array.from({ length: p }, (_, j) => backSubstitute(R, Float64Array.from({ length: p }, (_, i) => (i === j ? 1 : 0)), p))
  return Array.from({ length: p }, (_, i) => Float64Array.from({ length: p }, (_, j) => columns.reduce((s, c) => s + c[i]! * c[j]!, 0)))
}
