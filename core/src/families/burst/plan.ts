import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { plain, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { findPlateaus } from '../../signal/plateaus'
import { quietStart } from '../../signal/quietStart'
import { indexOfMax } from '../../signal/rising'
import { shownWindow } from '../../signal/window'
import { fitLine } from '../../statistics/line'
import { median } from '../../statistics/quantile'

const own = {
  requiredFactor: plain({ title: 'Factor that is asked', positive: true }).optional(),
  radius: quantity('length', { title: 'Radius', positive: true }).optional(),
  ratedPressure: quantity('pressure', { title: 'Rated pressure', positive: true }).optional(),
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
  // A burst asked for over the rated pressure is the factor asked for.
  first: ({ asked, facts }) => {
    const { burstFactor, burstPressure } = asked
    const factor =
      burstFactor ?? (burstPressure && facts['ratedPressure'] ? burstPressure / facts['ratedPressure'] : null)
    return factor ? { requiredFactor: Number(factor.toPrecision(6)) } : {}
  },
  inLoading: { vessel: ['radius', 'ratedPressure'] },
  begins: { vessel: { hold: 30 }, direct: direct('pressure', 'Pressure', 'pressure', 1e6, 30) },
  setUp: [{ key: 'set-up:0', text: 'Air bled at the highest point', why: 'A bubble stores what water does not.' }],
}

/** Of the largest pressure: a hold wanders by so much, and counts from so much on. */
const HOLD = { tolerance: 0.02, from: 0.1 }
/** The pump settles at the beginning of a hold; at its end a little is left off before the ramp that follows. */
const [SETTLING, LEAVING] = [0.1, 0.02]

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
          .flatMap(({ from, to }) => {
            const [begins, ends] = [t[from]!, t[lastStraight(t, pressure, from, to)]!]
            const lasts = ends - begins
            return [shownWindow(t, begins + SETTLING * lasts, ends - LEAVING * lasts)].filter(w => w !== null)
          })
  const zeroStart = pressure ? quietStart(t, pressure) : null
  return { ...omitUndefined(planned), holds, ...(zeroStart ? { zeroStart } : {}) }
}

/** The last sample of a hold that still lies on the line through its middle half, as two before it do. */
function lastStraight(t: Float64Array, y: Float64Array, from: number, to: number): number {
  const quarter = Math.ceil((to - from) / 4)
  const [times, middle] = [t.subarray(from + quarter, to - quarter), y.subarray(from + quarter, to - quarter)]
  if (middle.length < 3) return to - 1
  const { slope, intercept } = fitLine(times, middle)
  const off = (i: number) => Math.abs(y[i]! - intercept - slope * t[i]!)
  const within = 3 * 1.4826 * median(middle.map((_, i) => off(from + quarter + i)))
  let last = to - 1
  const isStraight = (i: number) => off(i) <= within && off(i - 1) <= within && off(i - 2) <= within
  while (last > to - quarter && !isStraight(last)) last--
  return last
}
