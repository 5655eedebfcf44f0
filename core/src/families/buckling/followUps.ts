import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { BucklingSettings } from './settings'

/** Wall and mass for the force that was carried, by the lower bound, by the design factor and by what was measured. */
export function followUpBuckling({ results }: Pick<MethodOutput, 'results'>, s: BucklingSettings): FollowUp[] {
  const [force, factor] = [results['peakForce']?.value, results['knockdown']?.value]
  if (!force || !factor) return []
  const { radius, thickness, modulus, poisson, length, density, designFactor } = s
  // A stiffened wall has no thickness to be found so.
  if (s.perfectLineLoad !== undefined) return []
  return [
    {
      calc: 'knockdown',
      title: 'Wall and mass by each design factor',
      settings: {
        radius,
        thickness,
        modulus,
        poisson,
        requiredForce: force,
        factors: [...(designFactor ? [designFactor] : []), Math.min(1, factor)],
        ...(length ? { length } : {}),
        ...(density ? { density } : {}),
      },
    },
  ]
}
