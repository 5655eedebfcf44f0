import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { StaticPlan } from './plan'
import type { StaticSettings } from './settings'

/**
 * What the structure’s load allows at other weights; the pull of ends that cannot slide, at the sag that was measured.
 */
export function followUpStatic(
  { results }: Pick<MethodOutput, 'results'>,
  _: StaticSettings,
  plan: StaticPlan | null,
): FollowUp[] {
  const [factor, sag] = [results['loadFactor']?.value, results['deflectionAtDesign']?.value]
  const held = plan?.restraint
  return [
    ...(factor ? [{ calc: 'g-limit', title: 'Load factor at other weights', settings: { factor } }] : []),
    ...(sag && held
      ? [
          {
            calc: 'end-pull',
            title: 'Pull of the held ends at the measured sag',
            settings: {
              axialStiffness: held.axialStiffness,
              sag,
              length: held.length,
              ...(held.attachmentCapacity ? { insertCapacity: held.attachmentCapacity } : {}),
            },
          },
        ]
      : []),
  ]
}
