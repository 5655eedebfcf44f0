import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import { topOf } from '../../plan/plan'
import type { DescentSettings } from './settings'
import type { DescentPlan } from './plan'

/** Where it lands in a wind, and how the test stands to service; wind, field and the air of service are asked. */
export function followUpDescent(
  { results }: Pick<MethodOutput, 'results'>,
  s: DescentSettings,
  plan: DescentPlan | null,
): FollowUp[] {
  const [rate, density] = [results['descentRate']?.value, results['density']?.value]
  if (!rate || !density) return []
  const exit = plan?.commanded.kind === 'length' ? plan.rungs[topOf(plan.rungs)]?.target : undefined
  const size = Math.sqrt((4 * s.referenceArea) / Math.PI)
  return [
    {
      calc: 'descent-plan',
      title: 'Where it lands in a wind',
      settings: { rate, ...(exit ? { exitAltitude: exit } : {}), scatter: {} },
    },
    {
      calc: 'similitude',
      title: 'This drop beside service',
      settings: {
        test: { velocity: rate, density, length: size, mass: s.mass },
        service: { length: size, mass: s.mass },
      },
    },
  ]
}
