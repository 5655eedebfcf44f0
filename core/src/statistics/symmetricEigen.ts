/**
 * Eigenvalues and eigenvectors of a symmetric matrix by Jacobi's turns; vectors stand in columns, in no order.
 *
 * @source Golub & Van Loan, Matrix Computations, 8.5
 */
export function symmetricEigen(matrix: readonly (readonly number[])[]): { values: number[]; vectors: number[][] } {
  const n = matrix.length
  const A: number[][] = matrix.map(r => [...r])
  const V: number[][] = A.map((_, i) => A.map((_, j) => (i === j ? 1 : 0)))
  for (let sweep = 0; sweep < 50; sweep++) {
    let off = 0
    for (let p = 0; p < n - 1; p++)
      for (let q = p + 1; q < n; q++) {
        off += A[p]![q]! ** 2
        if (A[p]![q] === 0) continue
        const theta = (A[q]![q]! - A[p]![p]!) / (2 * A[p]![q]!)
        const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1))
        const c = 1 / Math.sqrt(t * t + 1)
        turn(A, V, p, q, c, t * c)
      }
    if (off < 1e-300) break
  }
  return { values: A.map((row, i) => row[i]!), vectors: V }
}

/** The plane of two axes turned, from both sides of A and from the right of V. */
function turn(A: number[][], V: number[][], p: number, q: number, c: number, s: number): void {
  for (const row of [...A, ...V]) {
    const [a, b] = [row[p]!, row[q]!]
    row[p] = c * a - s * b
    row[q] = s * a + c * b
  }
  const [up, uq] = [A[p]!, A[q]!]
  for (let k = 0; k < A.length; k++) {
    const [a, b] = [up[k]!, uq[k]!]
    up[k] = c * a - s * b
    uq[k] = s * a + c * b
  }
}
