import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { VibrationSettings } from './settings'
import type { VibrationPlan } from './plan'

/** Response and notch by the measured mode, the fastest sweep over it, and stand-ins for what was left out. */
export function followUpVibration(
  { results }: Pick<MethodOutput, 'results'>,
  s: VibrationSettings,
  plan: VibrationPlan | null,
): FollowUp[] {
  const [frequency, damping] = [results['firstFrequency']?.value, results['firstDamping']?.value]
  if (!frequency || !damping) return []
  const q = Math.max(0.51, 1 / (2 * damping))
  const mass =
    plan?.loading.kind === 'shaker' ? (plan.loading.settings as { articleMass: number }).articleMass : undefined
  const inside =
    s.specification && frequency >= s.specification[0]!.frequency && frequency <= s.specification.at(-1)!.frequency
  return [
    {
      calc: 'vibration-spec',
      title: 'Response to the specification, and its notch',
      settings: {
        ...(s.specification ? { breakpoints: s.specification } : {}),
        ...(inside || !s.specification ? { frequency } : {}),
        q,
        ...(mass ? { mass } : {}),
      },
    },
    { calc: 'sweep-rate', title: 'How fast a sweep may pass this mode', settings: { frequency, q } },
    { calc: 'mass-properties', title: 'Mass simulators against what they stand for', settings: {} },
  ]
}
