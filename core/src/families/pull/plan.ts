import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { plain, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'
import { calledOn, RUNG_TOLERANCE } from '../../rig/calledRung'
import { combine } from '../../uncertainty/coverage'
import { sensorBudget } from '../../uncertainty/sensor'

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
  begins: { pull: { goalBy: 'referenceStrength' }, direct: direct('force', 'Force', 'force', 5000) },
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

/** Repeats of a call within so much of it are one. */
const SAME = 1e-6

/**
 * Gauge and strength when new as planned, zero from the rest at the beginning; what people read, or what holds few
 * readings, was called out.
 */
export function proposePull({
  plan,
  table: { t, channels },
  outcome,
  calls,
  peak,
  sensors,
}: ProposedFrom<PullPlan>): Record<string, unknown> {
  const { referenceStrength, gaugeAccuracy, gaugeFullScale } = plan ?? {}
  const known = omitUndefined({
    referenceStrength,
    ...(gaugeFullScale ? { gaugeAccuracy, gaugeFullScale } : gaugeOf(sensors)),
  })
  const called = calls?.flatMap(c => (c.load === null || c.load < 0 ? [] : [{ force: c.load, t: c.t }])) ?? []
  if (called.length > 0) return { ...known, ...calledOut(called, plan, outcome, peak) }
  const force = channels['force']
  if (!force) return known
  const zeroStart = quietStart(t, force)
  if (force.length >= CALLED_OUT) return { ...known, ...(zeroStart ? { zeroStart } : {}) }
  const read = Array.from(force, (f, i) => ({ force: f, t: t[i]! })).filter(c => c.force >= 0)
  return read.length === 0 ? known : { ...known, ...calledOut(read, plan, outcome, peak) }
}

interface Called {
  force: number
  t: number
}

/** Call-outs, each load once as it was first held, with how far the next was to be. */
function calledOut(
  all: readonly Called[],
  plan: PullPlan | null,
  outcome: string,
  peak: number | null | undefined,
): Record<string, unknown> {
  const callouts = all.filter((c, i) => !all.slice(0, i).some(b => Math.abs(b.force - c.force) <= SAME * b.force))
  const low = Math.max(...callouts.map(c => c.force))
  // What the fixture ended, the specimen held.
  const held = outcome === 'no-failure' || outcome === 'fixture'
  const increment = held || plan === null ? undefined : nextRung(plan, low, callouts.length)
  return {
    callouts,
    outcome: held ? 'no-failure' : 'broke',
    ...(!held && peak != null && peak >= low ? { recordedPeak: peak } : increment === undefined ? {} : { increment }),
  }
}

/** How far above a load that was held the plan's next rung stands; calls between rungs tell their own steps. */
function nextRung({ rungs, commanded }: PullPlan, low: number, calls: number): number | undefined {
  const isOnRung = rungs.some(r => r.target > 0 && calledOn(low, r.target) === 'reached')
  if (commanded.kind !== 'force' || (!isOnRung && calls > 1)) return undefined
  // A rung held a little short of its target was held: the next one is meant.
  const next = rungs.find(r => r.target > low * (1 + RUNG_TOLERANCE))
  return next && next.target - low
}

/** By the force's sensor, as an accuracy of its full scale that gives the same standard uncertainty. */
function gaugeOf(sensors: ProposedFrom['sensors']): { gaugeAccuracy?: number; gaugeFullScale?: number } {
  const s = sensors?.['force']
  if (!s) return {}
  const { u } = combine(sensorBudget(s, s.fullScale))
  return { gaugeFullScale: s.fullScale, ...(u > 0 ? { gaugeAccuracy: (u * Math.sqrt(3)) / s.fullScale } : {}) }
}
