import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'

const own = {
  linearMass: quantity('massPerLength', { title: 'Mass per length', positive: true }).optional(),
  length: quantity('length', { title: 'Length of the article', positive: true }).optional(),
  speed: quantity('velocity', { title: 'Speed of the crush', positive: true }).optional(),
  wall: quantity('length', { title: 'Wall', positive: true }).optional(),
}

export const crushPlan = planSchema(own, ['direct', 'pull'])
export type CrushPlan = z.output<typeof crushPlan>

export const crushPlanning: Planning<CrushPlan> = {
  loadings: ['pull', 'direct'],
  needed: [
    { role: 'force', label: 'Force', kind: 'force' },
    { role: 'displacement', label: 'Displacement', kind: 'length' },
  ],
  read: { role: 'displacement', kind: 'length' },
  readBy: { initialPeak: 'force', meanForce: 'force' },
  own: z.object(own),
  begins: {
    pull: { settings: { direction: 'compression' }, goal: 50_000 },
    direct: direct('length', 'Stroke', 'stroke', 0.05),
  },
  setUp: [{ key: 'set-up:0', text: 'Trigger upward, plates parallel', why: 'A tube that starts askew folds askew.' }],
}

/** Mass per length and length as planned; zero from the rest before the contact, where there is a clock. */
export function proposeCrush({ plan, table: { t, channels } }: ProposedFrom<CrushPlan>): Record<string, unknown> {
  const zeroStart = t.length > 0 && channels['force'] ? quietStart(t, channels['force']) : null
  return {
    ...(plan?.linearMass ? { linearMass: plan.linearMass } : {}),
    ...(plan?.length ? { length: plan.length } : {}),
    ...(zeroStart ? { zeroStart } : {}),
  }
}
