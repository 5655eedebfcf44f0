import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import { topOf } from '../../plan/plan'
import type { DescentSettings } from './settings'
import type { DescentPlan } from './plan'

/** The air in which it is to serve: warm and high. */
const SERVICE = { density: 1.0 }

/** Where it lands in a wind, and how the test stands to service. */
export function followUpDescent(
  { results }: Pick<MethodOutput, 'results'>,
  s: DescentSettings,
  plan: DescentPlan | null,
): FollowUp[] {
  const [rate, density] = [results['descentRate']?.value, results['density']?.value]
  if (!rate || !density) return []
  const exit = plan?.commanded.kind === 'length' ? plan.rungs[topOf(plan.rungs)]!.target : 300
  const size = Math.sqrt((4 * s.referenceArea) / Math.PI)
  return [
    {
      calc: 'descent-plan',
      title: 'Where it lands in a wind',
      settings: {
        layers: [
          { altitude: 0, speed: 1.5, from: { value: 270, unit: 'deg' } },
          { altitude: exit / 2, speed: 2.5, from: { value: 285, unit: 'deg' } },
        ],
        rate,
        exitAltitude: exit,
        openingAltitude: exit,
        field: [
          [-60, -60],
          [140, -60],
          [140, 60],
          [-60, 60],
        ],
        scatter: {},
      },
    },
    {
      calc: 'similitude',
      title: 'This drop beside service',
      settings: {
        test: { velocity: rate, density, length: size, mass: s.mass },
        service: {
          velocity: rate * Math.sqrt(density / SERVICE.density),
          density: SERVICE.density,
          length: size,
          mass: s.mass,
        },
      },
    },
  ]
}
