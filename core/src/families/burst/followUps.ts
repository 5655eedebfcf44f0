import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { BurstSettings } from './settings'

/** The same wall on another radius; life under a lower pressure. */
export function followUpBurst({ results }: Pick<MethodOutput, 'results'>, s: BurstSettings): FollowUp[] {
  const pressure = results['burstPressure']?.value
  if (!pressure) return []
  const length = s.volume === undefined ? undefined : s.volume / (Math.PI * s.radius ** 2)
  return [
    {
      calc: 'scale-burst',
      title: 'The same wall on another radius',
      settings: {
        burstPressure: pressure,
        radius: s.radius,
        ...(length === undefined ? {} : { length }),
        ratedPressure: s.ratedPressure,
        requiredFactor: s.requiredFactor,
      },
    },
    {
      calc: 'creep-life',
      title: 'How long it holds at a share of the burst pressure',
      settings: { serviceFraction: Math.min(0.95, s.ratedPressure / pressure) },
    },
  ]
}
