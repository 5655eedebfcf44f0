import type { Comparator } from './decide'

export const CONVENTIONS = ['margin-of-safety', 'reserve-factor', 'factor-of-safety'] as const
export type Convention = (typeof CONVENTIONS)[number]

/**
 * Reserve factor of a result against its limit: above 1 is inside. For a minimum the result is what is had and the
 * limit what is needed; for a maximum the other way round. The limit already contains its factor of safety.
 * Margin of safety = reserve factor − 1; factor of safety = reserve factor × the factor that the limit contains, to be
 * held against that factor.
 */
export function reserveFactor(value: number, comparator: Comparator, limit: number): number {
  return comparator === 'atLeast' ? value / limit : limit / value
}

export const marginOfSafety = (value: number, comparator: Comparator, limit: number): number =>
  reserveFactor(value, comparator, limit) - 1

export const factorOfSafety = (value: number, comparator: Comparator, limit: number, factor: number): number =>
  reserveFactor(value, comparator, limit) * factor
