import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'

const own = {
  requiredTorque: quantity('torque', { title: 'Required torque', positive: true }).optional(),
  offset: quantity('angle', { title: 'Yield offset', positive: true }).optional(),
}

export const torquePlan = planSchema(own, ['torque', 'direct'])
export type TorquePlan = z.output<typeof torquePlan>

export const torquePlanning: Planning<TorquePlan> = {
  loadings: ['torque', 'direct'],
  needed: [
    { role: 'torque', label: 'Torque', kind: 'torque' },
    { role: 'twist', label: 'Twist', kind: 'angle' },
  ],
  read: { role: 'twist', kind: 'angle' },
  readBy: { yieldTorque: 'torque', ultimateTorque: 'torque' },
  own: z.object(own),
  begins: { torque: { goalBy: 'requiredTorque' }, direct: direct('torque', 'Torque', 'torque', 500) },
  setUp: [
    { key: 'set-up:0', text: 'Couplings in line, keys and bolts marked', why: 'A crooked coupling breaks first.' },
  ],
}

/** Offset where nobody says one: that of a fifth of a per cent on a shaft ten times as long as its radius, rad. */
const USUAL_OFFSET = 0.02

/** As planned; zero from the rest where there is a clock. */
export function proposeTorque({
  plan,
  table: { t, channels },
  outcome,
}: ProposedFrom<TorquePlan>): Record<string, unknown> {
  const zeroStart = t.length > 0 && channels['torque'] ? quietStart(t, channels['torque']) : null
  return {
    offset: plan?.offset ?? USUAL_OFFSET,
    ...(plan?.requiredTorque ? { requiredTorque: plan.requiredTorque } : {}),
    outcome: outcome === 'no-failure' || outcome === 'fixture' ? outcome : 'article',
    ...(zeroStart ? { zeroStart } : {}),
  }
}
