/**
 * Exponents of the base dimensions, in the order of `BASES`. Angle, bytes and level are bases of their own, so that
 * degrees are not taken for per cent; whoever multiplies them away (torque × speed) drops the angle knowingly.
 */
export const BASES = ['m', 'kg', 's', 'A', 'K', 'rad', 'B', 'dB'] as const

export type Dimension = readonly number[]

export const DIMENSIONLESS: Dimension = BASES.map(() => 0)

export const dimension = (exponents: Partial<Record<(typeof BASES)[number], number>>): Dimension =>
  BASES.map(b => exponents[b] ?? 0)

export const sameDimension = (a: Dimension, b: Dimension): boolean => a.every((x, i) => x === b[i])

export const multiply = (a: Dimension, b: Dimension): Dimension => a.map((x, i) => x + b[i]!)

export const power = (a: Dimension, n: number): Dimension => a.map(x => (x === 0 ? 0 : x * n))
