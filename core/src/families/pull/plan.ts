import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { plain, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import type { Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'

const own = {
  referenceStrength: quantity('force', { title: 'Strength when new', positive: true }).optional(),
  wear: plain({ title: 'Wear of this specimen', min: 0, max: 1 }).optional(),
  gaugeAccuracy: plain({ title: 'Accuracy of the gauge, of full scale', positive: true, max: 1 }).optional(),
  gaugeFullScale: quantity('force', { title: 'Full scale of the gauge', positive: true }).optional(),
}

export const pullPlan = planSchema(own, ['pull', 'direct'])
export type PullPlan = z.output<typeof pullPlan>

export const pullPlanning: Planning<PullPlan> = {
  loadings: ['pull', 'direct'],
  needed: [{ role: 'force', label: 'Force', kind: 'force' }],
  read: null,
  readBy: { peakForce: 'force' },
  own: z.object(own),
  setUp: [
    {
      key: 'set-up:0',
      text: 'Load path laid in line, pins home and secured',
      why: 'A shackle on its side carries half.',
    },
  ],
}

/** Fewer readings than that were called out, not recorded. */
const CALLED_OUT = 30

/**
 * Gauge and strength when new as planned, zero from the rest at the beginning; what holds few readings was called out.
 */
export function proposePull({
  plan,
  table: { t, channels },
  outcome,
}: ProposedFrom<PullPlan>): Record<string, unknown> {
  const { referenceStrength, gaugeAccuracy, gaugeFullScale } = plan ?? {}
  const known = omitUndefined({ referenceStrength, gaugeAccuracy, gaugeFullScale })
  const force = channels['force']
  if (!force) return known
  const zeroStart = quietStart(t, force)
  if (force.length >= CALLED_OUT) return { ...known, ...(zeroStart ? { zeroStart } : {}) }
  return {
    ...known,
    callouts: Array.from(force, (f, i) => ({ force: f, t: t[i]! })),
    outcome: outcome === 'no-failure' ? 'no-failure' : 'broke',
  }
}
