import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { plain, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'

const hertz = (title: string) => quantity('frequency', { title, positive: true })

const own = {
  drive: z.enum(['random', 'sweep', 'dwell']).default('random').meta({ title: 'Driven by' }),
  sweepFrom: hertz('Sweep from').optional(),
  sweepTo: hertz('Sweep to').optional(),
  dwellAt: hertz('Dwell at').optional(),
  minFrequency: hertz('First mode not below').optional(),
  bandFrom: hertz('Modes looked for from').optional(),
  bandTo: hertz('Modes looked for up to').optional(),
  before: z
    .array(z.object({ frequency: hertz('Frequency'), damping: plain({ title: 'Damping', min: 0, max: 1 }) }))
    .optional()
    .meta({ title: 'Modes before' }),
  shapes: z
    .array(
      z.object({
        frequency: hertz('Predicted frequency').optional(),
        values: z.array(plain()).meta({ title: 'Shape, a value each response' }),
      }),
    )
    .optional()
    .meta({ title: 'Shapes of the model' }),
}

export const vibrationPlan = planSchema(own, ['shaker', 'direct'])
export type VibrationPlan = z.output<typeof vibrationPlan>

export const vibrationPlanning: Planning<VibrationPlan> = {
  loadings: ['shaker', 'direct'],
  needed: [
    { role: 'drive', label: 'Drive', kind: 'acceleration' },
    { role: 'response', label: 'Response', kind: 'acceleration' },
  ],
  read: { role: 'response', kind: 'acceleration' },
  readBy: {},
  own: z.object(own),
  begins: { direct: direct('acceleration', 'Level, rms', 'drive', 20, 60) },
  setUp: [
    {
      key: 'set-up:0',
      text: 'Bolts marked and torqued, signature taken before',
      why: 'What was loose before is not known after.',
    },
  ],
}

/** Segments: at least so many averages, bins of at most this share of a sample rate. */
const AVERAGES = 24
const LONGEST = 8192
const NYQUIST = 0.45

/**
 * Segments as long as enough averages allow; band, specification and modes before as planned, places of the gauges as
 * drawn.
 */
export function proposeVibration({
  plan,
  table: { t, channels },
}: ProposedFrom<VibrationPlan>): Record<string, unknown> {
  if (t.length < 2) return {}
  const rate = (t.length - 1) / (t.at(-1)! - t[0]!)
  const nperseg = 2 ** Math.max(3, Math.min(Math.log2(LONGEST), Math.floor(Math.log2((2 * t.length) / (AVERAGES + 1)))))
  const points = (plan?.channels ?? [])
    .filter(c => Object.hasOwn(channels, c.role) && c.role !== 'drive' && c.x !== undefined)
    .map(c => ({ channel: c.role, x: c.x, y: c.y ?? 0 }))
  const specification =
    plan?.loading.kind === 'shaker'
      ? (plan.loading.settings as { breakpoints: { frequency: number; density: number }[] }).breakpoints
      : undefined
  const planned = {
    minFrequency: plan?.minFrequency,
    before: plan?.before,
    shapes: plan?.shapes,
    specification,
    ...(points.length > 1 ? { points } : {}),
  }
  return {
    nperseg,
    band: [
      plan?.bandFrom ?? Number(((3 * rate) / nperseg).toPrecision(3)),
      plan?.bandTo ?? Number((NYQUIST * rate).toPrecision(3)),
    ],
    ...omitUndefined(planned),
  }
}
