import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { DropSettings } from './settings'
import { fallOf, type DropPlan } from './plan'

/** The next drop, with what this one showed of rebound and deceleration. */
export function followUpDrop(
  { results }: Pick<MethodOutput, 'results'>,
  s: DropSettings,
  plan: DropPlan | null,
): FollowUp[] {
  const { guideLoss, stroke } = fallOf(plan)
  const [restitution, plateau] = [results['restitution']?.value, results['plateau']?.value]
  return [
    {
      calc: 'drop-plan',
      title: 'The next drop, by what this one showed',
      settings: {
        impactVelocity: s.impactVelocity,
        cfc: s.cfc,
        ...(guideLoss === undefined ? {} : { guideLoss }),
        ...(restitution && restitution > 0 ? { restitution } : {}),
        ...(plateau ? { targetDeceleration: plateau } : {}),
        ...(stroke === undefined ? {} : { availableStroke: stroke }),
      },
    },
  ]
}
