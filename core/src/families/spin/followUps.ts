import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { SpinSettings } from './settings'
import { benchOf, type SpinPlan } from './plan'

/** What turns at the next set-point. */
export function followUpSpin(
  { tables }: Pick<MethodOutput, 'tables'>,
  s: SpinSettings,
  plan: SpinPlan | null,
): FollowUp[] {
  const points = tables['points']
  const [share, speed] = [points?.columns['setpoint']?.at(-1), points?.columns['speed']?.at(-1)]
  if (typeof share !== 'number' || typeof speed !== 'number') return []
  const inertia = (benchOf(plan) as { rotorInertia?: number }).rotorInertia
  return [
    {
      calc: 'stored-energy',
      title: 'Energy that turns at the next set-point',
      settings: { kind: 'rotor', ...(inertia ? { inertia } : {}), speed: (speed * (s.nextSetpoint ?? share)) / share },
    },
  ]
}
