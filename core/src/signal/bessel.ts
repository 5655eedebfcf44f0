/** Terms of the power series: enough for arguments up to some thirty. */
const TERMS = 60

/**
 * J₀(√z) by its power series, whole in z: below nothing it is I₀. @source Abramowitz & Stegun, 9.1.10 @example
 * bessel0(1) // 0.7652
 */
export const bessel0 = (z: number): number => series(z, 0)

/** J₁(√z)/√z, likewise. @example 2 * bessel1(0) // 1 */
export const bessel1 = (z: number): number => series(z, 1) / 2

/** Σ (−z/4)ⁿ·order!/(n!(n + order)!) */
function series(z: number, order: 0 | 1): number {
  let [term, sum] = [1, 1]
  for (let n = 1; n < TERMS; n++) {
    term *= -z / 4 / (n * (n + order))
    sum += term
  }
  return sum
}
