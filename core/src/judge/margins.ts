import type { Comparator } from './decide'

export const CONVENTIONS = ['margin-of-safety', 'reserve-factor'] as const
export type Convention = (typeof CONVENTIONS)[number]

/**
 * Reserve factor of a result against its limit: above 1 is inside. For a minimum the result is what is had and the
 * limit what is needed; for a maximum the other way round. The limit already contains its factor of safety.
 * Margin of safety = reserve factor − 1.
 */
export function reserveFactor(value: number, comparator: Comparator, limit: number): number {
  return comparator === 'atLeast' ? value / limit : limit / value
}

export const marginOfSafety = (value: number, comparator: Comparator, limit: number): number => reserveFactor(value, comparator, limit) - 1
