/** A reading within this share of its rung's load has reached it. */
export const RUNG_TOLERANCE = 0.05

export type CalledRung = 'reached' | 'short' | 'above'

/**
 * A load that was called out against the rung that it was called out on.
 *
 * @param load  SI, as the target
 * @example calledOn(1000, 2000) // 'short'
 */
export function calledOn(load: number, target: number, tolerance = RUNG_TOLERANCE): CalledRung {
  if (target === 0) return 'reached'
  return load < target * (1 - tolerance) ? 'short' : load > target * (1 + tolerance) ? 'above' : 'reached'
}
