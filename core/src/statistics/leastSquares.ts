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
  return leastSquaresOf(
    Array.from({ length: X[0]!.length }, (_, j) => Float64Array.from(X, row => row[j]!)),
    Float64Array.from(y),
  )
}

/** The same of whole columns, which it works in: they and `b` are spent afterwards. */
export function leastSquaresOf(columns: Float64Array[], b: Float64Array): LinearFit {
  const [n, p] = [b.length, columns.length]
  const norms = columns.map(column => Math.sqrt(sumOfSquares(column, 0)))
  for (let j = 0; j < p; j++) {
    const own = columns[j]!
    const norm = Math.sqrt(sumOfSquares(own, j))
    if (!(norm > 1e-12 * norms[j]!))
      throw new HypometError('singular', 'The columns depend on one another; the fit has no single answer.')
    const alpha = own[j]! > 0 ? -norm : norm
    const v = own.slice(j)
    v[0]! -= alpha
    const vv = sumOfSquares(v, 0)
    for (let k = j; k < p; k++) reflect(columns[k]!, v, vv, j, n)
    reflect(b, v, vv, j, n)
  }
  const R = Array.from({ length: p }, (_, i) => Float64Array.from(columns, column => column[i]!))
  return { coefficients: backSubstitute(R, b, p), inverse: inverseOf(R, p), rss: sumOfSquares(b, p) }
}

function sumOfSquares(column: Float64Array, from: number): number {
  let sum = 0
  for (let i = from; i < column.length; i++) sum += column[i]! ** 2
  return sum
}

function reflect(column: Float64Array, v: Float64Array, vv: number, j: number, n: number): void {
  let dot = 0
  for (let i = j; i < n; i++) dot += v[i - j]! * column[i]!
  const share = (2 * dot) / vv
  for (let i = j; i < n; i++) column[i]! -= share * v[i - j]!
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
  const columns = Array.from({ length: p }, (_, j) =>
    backSubstitute(
      R,
      Float64Array.from({ length: p }, (_, i) => (i === j ? 1 : 0)),
      p,
    ),
  )
  return Array.from({ length: p }, (_, i) =>
    Float64Array.from({ length: p }, (_, j) => columns.reduce((s, c) => s + c[i]! * c[j]!, 0)),
  )
}
