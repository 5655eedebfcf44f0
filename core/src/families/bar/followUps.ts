import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { BarSettings } from './settings'
import type { BarPlan } from './plan'

/** The next specimen, striker and pulse with the strength that was measured. */
export function followUpBar(
  { results }: Pick<MethodOutput, 'results'>,
  s: BarSettings,
  plan: BarPlan | null,
): FollowUp[] {
  const strength = results['peakStress']?.value
  if (!strength) return []
  const { strikerLength, strikerVelocity } = plan ?? {}
  return [
    {
      calc: 'bar-specimen',
      title: 'The next specimen, its striker and its waves',
      settings: {
        barModulus: s.barModulus,
        barDensity: s.barDensity,
        barDiameter: Math.sqrt((4 * s.barArea) / Math.PI),
        strength,
        ...(strikerLength ? { strikerLength } : {}),
        ...(strikerVelocity ? { strikerVelocity } : {}),
      },
    },
  ]
}
