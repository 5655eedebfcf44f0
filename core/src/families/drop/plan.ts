import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { quantity } from '../../method/settings'
import { planSchema, topOf } from '../../plan/plan'
import type { Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'
import { STANDARD_GRAVITY } from '../../quantity/units'

const own = {
  seated: z.boolean().default(false).meta({ title: 'A person sits in it' }),
  recordedHeight: quantity('length', {
    title: 'Height of the drop that is recorded, where not the highest',
    positive: true,
  }).optional(),
}

export const dropPlan = planSchema(own, ['drop', 'direct'])
export type DropPlan = z.output<typeof dropPlan>

export const dropPlanning: Planning<DropPlan> = {
  loadings: ['drop', 'direct'],
  needed: [{ role: 'acceleration', label: 'Acceleration', kind: 'acceleration' }],
  read: { role: 'acceleration', kind: 'acceleration' },
  readBy: { peak: 'acceleration', plateau: 'acceleration' },
  own: z.object(own),
  setUp: [{ key: 'set-up:0', text: 'Guide greased, release tried empty', why: 'What hangs up falls later.' }],
}

/** As the loading says a drop. */
export type Fall = {
  mass?: number
  guideLoss?: number
  cfc?: number
  restitution?: number
  deceleration?: number
  stroke?: number
}
export const fallOf = (plan: Pick<DropPlan, 'loading'> | null): Fall =>
  plan?.loading.kind === 'drop' ? (plan.loading.settings as Fall) : {}

/** Zero from the fall, class, mass and the velocity that the planned height gives after the guide's loss. */
export function proposeDrop({ plan, table: { t, channels } }: ProposedFrom<DropPlan>): Record<string, unknown> {
  const { mass, guideLoss = 0, cfc = 60 } = fallOf(plan)
  const height =
    plan?.recordedHeight ?? (plan?.commanded.kind === 'length' ? plan.rungs[topOf(plan.rungs)]?.target : undefined)
  const zeroStart = channels['acceleration'] ? quietStart(t, channels['acceleration']) : null
  return {
    cfc,
    ...(mass ? { mass } : {}),
    ...(height ? { impactVelocity: Math.sqrt(2 * STANDARD_GRAVITY * height * (1 - guideLoss)) } : {}),
    ...(plan?.seated ? { spine: true } : {}),
    ...(zeroStart ? { zeroStart } : {}),
  }
}
