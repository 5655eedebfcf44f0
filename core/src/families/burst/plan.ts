import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { plain, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import type { Planning } from '../../plan/planning'
import { findPlateaus } from '../../signal/plateaus'
import { quietStart } from '../../signal/quietStart'
import { indexOfMax } from '../../signal/rising'

const own = {
  requiredFactor: plain({ title: 'Factor that is asked', positive: true }).optional(),
  radius: quantity('length', { title: 'Radius, where no vessel says it', positive: true }).optional(),
  ratedPressure: quantity('pressure', { title: 'Rated pressure, where no vessel says it', positive: true }).optional(),
  shortestHold: quantity('time', { title: 'A hold lasts at least', positive: true }).default(20),
}

export const burstPlan = planSchema(own, ['vessel', 'bladder', 'direct'])
export type BurstPlan = z.output<typeof burstPlan>

export const burstPlanning: Planning<BurstPlan> = {
  loadings: ['vessel', 'bladder', 'direct'],
  needed: [{ role: 'pressure', label: 'Pressure', kind: 'pressure' }],
  read: null,
  readBy: { burstPressure: 'pressure' },
  own: z.object(own),
  setUp: [{ key: 'set-up:0', text: 'Air bled at the highest point', why: 'A bubble stores what water does not.' }],
}

/** Of the largest pressure: a hold wanders by so much, and counts from so much on. */
const HOLD = { tolerance: 0.02, from: 0.1 }
/** The pump settles at the beginning of a hold. */
const SETTLING = 0.1

/** Vessel and factor as planned; holds where the pressure stands, less the settling at their beginnings. */
export function proposeBurst({ plan, table: { t, channels } }: ProposedFrom<BurstPlan>): Record<string, unknown> {
  const vessel =
    plan?.loading.kind === 'vessel'
      ? (plan.loading.settings as { volume?: number; radius?: number; ratedPressure?: number })
      : {}
  const planned = {
    volume: vessel.volume,
    radius: plan?.radius ?? vessel.radius,
    ratedPressure: plan?.ratedPressure ?? vessel.ratedPressure,
    requiredFactor: plan?.requiredFactor,
  }
  const pressure = channels['pressure']
  const most = pressure ? pressure[indexOfMax(pressure)]! : 0
  const holds =
    !pressure || !(most > 0)
      ? []
      : findPlateaus(t, pressure, HOLD.tolerance * most, plan?.shortestHold ?? 20)
          .filter(p => pressure[p.from]! > HOLD.from * most)
          .map(({ from, to }) =>
            [t[from]! + SETTLING * (t[to - 1]! - t[from]!), t[to - 1]!].map(v => Math.round(v * 10) / 10),
          )
  const zeroStart = pressure ? quietStart(t, pressure) : null
  return { ...omitUndefined(planned), holds, ...(zeroStart ? { zeroStart } : {}) }
}
