import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { TorqueSettings } from './settings'
import type { TorquePlan } from './plan'

type PathPart = { name: string; capacity: number; ratio: number; cov?: number; article?: boolean }

/** The drive train with what the article really carries: what breaks first now. */
export function followUpTorque(
  { results }: Pick<MethodOutput, 'results'>,
  _: TorqueSettings,
  plan: TorquePlan | null,
): FollowUp[] {
  const carried = results['ultimateTorque']?.value
  if (!carried) return []
  const path = plan?.loading.kind === 'torque' ? (plan.loading.settings as { path: PathPart[] }).path : []
  return [
    {
      calc: 'drive-chain',
      title: 'What breaks first with this article',
      settings:
        path.length > 0
          ? {
              components: path.map(({ name, capacity, ratio, cov = 0.05, article = false }) => ({
                name,
                capacity: article ? carried : capacity,
                ratio,
                cov,
                article,
              })),
            }
          : {},
    },
    { calc: 'trial-matrix', title: 'Factors over a set of trials', settings: {} },
  ]
}
