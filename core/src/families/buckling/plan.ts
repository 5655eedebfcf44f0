import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { plain, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'

const size = (title: string) => quantity('length', { title, positive: true }).optional()

const own = {
  radius: size('Radius'),
  thickness: size('Wall'),
  length: size('Length'),
  modulus: quantity('pressure', { title: 'Modulus', positive: true }).optional(),
  poisson: plain({ title: 'Poisson’s ratio', min: 0, max: 0.49 }).optional(),
  density: quantity('density', { title: 'Density', positive: true }).optional(),
  designFactor: plain({ title: 'Design factor from imperfections or tests', positive: true }).optional(),
  innerPressure: quantity('pressure', { title: 'Inner pressure', min: 0 }).optional(),
  eccentricity: quantity('length', { title: 'Force off the axis', min: 0 }).optional(),
  ring: z
    .array(z.object({ channel: z.string().meta({ title: 'Channel' }), angle: quantity('angle', { title: 'At' }) }))
    .optional()
    .meta({ title: 'Ring of gauges' }),
}

export const bucklingPlan = planSchema(own, ['pull', 'direct'])
export type BucklingPlan = z.output<typeof bucklingPlan>

export const bucklingPlanning: Planning<BucklingPlan> = {
  loadings: ['pull', 'direct'],
  needed: [
    { role: 'force', label: 'Force', kind: 'force' },
    { role: 'deflection', label: 'Deflection', kind: 'length' },
  ],
  read: { role: 'deflection', kind: 'length' },
  readBy: { peakForce: 'force' },
  own: z.object(own),
  begins: {
    pull: { settings: { direction: 'compression' }, goal: 50_000 },
    direct: direct('force', 'Force', 'force', 50_000),
  },
  setUp: [
    { key: 'set-up:0', text: 'Ends bedded, axis plumb, first dents marked', why: 'A shell knows how it was set down.' },
  ],
}

const CARRIED = ['radius', 'thickness', 'length', 'modulus', 'poisson', 'density', 'designFactor'] as const

/** Shell and factor as planned, the ring as far as it was recorded, zero from the rest. */
export function proposeBuckling({ plan, table: { t, channels } }: ProposedFrom<BucklingPlan>): Record<string, unknown> {
  const zeroStart = channels['force'] ? quietStart(t, channels['force']) : null
  const ring = plan?.ring?.filter(g => Object.hasOwn(channels, g.channel)) ?? []
  return {
    ...Object.fromEntries(CARRIED.flatMap(k => (plan?.[k] === undefined ? [] : [[k, plan[k]]]))),
    ...(ring.length > 0 ? { ring } : {}),
    ...(zeroStart ? { zeroStart } : {}),
  }
}
