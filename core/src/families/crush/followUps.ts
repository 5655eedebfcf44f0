import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { CrushSettings } from './settings'
import type { CrushPlan } from './plan'

/**
 * A wall for another force, from what this one gave; and a tube sized with the measured energy in place of the
 * supplier's.
 */
export function followUpCrush(
  { results }: Pick<MethodOutput, 'results'>,
  s: CrushSettings,
  plan: CrushPlan | null,
): FollowUp[] {
  const [force, energy] = [results['meanForce']?.value, results['specificEnergy']?.value]
  if (!force || !energy) return []
  return [
    {
      calc: 'crush-tune',
      title: 'The wall for another mean force',
      settings: { tests: [{ ...(plan?.wall ? { thickness: plan.wall } : {}), force }] },
    },
    {
      calc: 'crush-size',
      title: 'A tube for a mass and a speed, by the measured energy',
      settings: { specificEnergy: energy },
    },
  ]
}
