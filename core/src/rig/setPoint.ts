import type { Plan } from '../plan/plan'
import type { Kind } from '../quantity/index'
import type { RigBlock } from './block'
import type { LadderState } from './ladder'

type Set = Pick<Plan, 'channels' | 'commanded' | 'also'>

const isRead = ({ channels }: Pick<Plan, 'channels'>, role: string): boolean =>
  channels.some(c => c.role === role && c.expression === undefined)

/** What the ladder commands is read by a channel; a lift, a height or an angle that is set is not. */
export const readsCommanded = (plan: Pick<Plan, 'channels' | 'commanded'>): boolean => isRead(plan, plan.commanded.role)

/** What is set and not read, of the commanded one and of further actuators: role, kind, and which of the rung's. */
export const setPointsOf = (plan: Set): { role: string; label: string; kind: Kind; actuator: number }[] =>
  [
    { role: plan.commanded.role, label: plan.commanded.label, kind: plan.commanded.kind },
    ...plan.also.map(a => ({ role: a.name, label: a.name, kind: a.kind })),
  ].flatMap((a, actuator) => (isRead(plan, a.role) ? [] : [{ ...a, actuator }]))

const isHeld = ({ phase }: Pick<LadderState, 'phase'>): boolean =>
  phase === 'hold' || phase === 'waiting' || phase === 'paused'

/**
 * A block with what is set beside what is read, where nothing reads it: on a rung that is held the rung's own target,
 * nothing on the way from one to the next. A record says by itself at which lift or height its readings were taken.
 */
export function withSetPoint(
  block: RigBlock,
  plan: Set & Pick<Plan, 'rungs'>,
  before: Pick<LadderState, 'rung' | 'phase'>,
  now: Pick<LadderState, 'rung' | 'phase'>,
): RigBlock {
  const missing = setPointsOf(plan).filter(s => !(s.role in block.channels))
  if (block.t.length === 0 || missing.length === 0) return block
  const stands = isHeld(before) && isHeld(now) && before.rung === now.rung
  const rung = plan.rungs[now.rung]
  const at = (actuator: number) => (actuator === 0 ? rung?.target : rung?.also[actuator - 1]) ?? NaN
  const set = missing.map(({ role, actuator }) => [role, block.t.map(() => (stands ? at(actuator) : NaN))] as const)
  return { ...block, channels: { ...block.channels, ...Object.fromEntries(set) } }
}
