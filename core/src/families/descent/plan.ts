import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { mayWait, quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { indexOfMax } from '../../signal/rising'
import { shownWindow } from '../../signal/window'
import { median } from '../../statistics/quantile'
import type { CanopySettings } from '../../plan/loading/canopy'
import { percent } from '../../plan/percent'

/** What tells how high it is. */
export const HEIGHT_FROM = ['altitude', 'air pressure', 'video frames'] as const

const own = {
  mass: mayWait(quantity('mass', { title: 'Mass that descends', positive: true })),
  referenceArea: mayWait(quantity('area', { title: 'Reference area', positive: true })),
  temperature: quantity('temperature', { title: 'Temperature at altitude 0', positive: true }).optional(),
  pressure: quantity('pressure', { title: 'Pressure at altitude 0', positive: true }).optional(),
  heightFrom: z.enum(HEIGHT_FROM).default('altitude').meta({ title: 'Height is told by' }),
  frameRate: quantity('frequency', { title: 'Pictures a second', positive: true }).optional(),
  vent: quantity('length', { title: 'Vent', min: 0 }).optional(),
}

export const descentPlan = planSchema(own, ['canopy', 'direct', 'drop'])
export type DescentPlan = z.output<typeof descentPlan>

export const descentPlanning: Planning<DescentPlan> = {
  loadings: ['canopy', 'direct', 'drop'],
  needed: [{ role: 'altitude', label: 'Altitude', kind: 'length' }],
  read: { role: 'altitude', kind: 'length' },
  readBy: { peakOpeningForce: 'riserForce' },
  own: z.object(own),
  begins: {
    canopy: { hold: 5, shares: [1], units: ['m', 'ft'] },
    direct: direct('length', 'Release height', 'releaseHeight', 100, 60),
  },
  setUp: [
    {
      key: 'set-up:0',
      text: 'Packed as written, pins and lines counted',
      why: 'A line over the edge is seen on the ground or in the air.',
    },
  ],
}

/** The steady part of a descent, as shares of the way from its highest to its lowest. */
const STEADY = { from: 0.35, to: 0.9 }
/** Lines are stretched where the riser force passes this share of its largest; the canopy is full at the largest. */
const STRETCHED = 0.05
/** Of its largest reading, what a riser that carries reads; of what it carries mostly, what it carries at least. */
const [LOADED, CARRIED] = [0.1, 0.5]
const [FEWEST_LOADED, FEWEST_BEFORE] = [10, 3]
/** Of the time that it is carried, that in which it opens. */
const OPENS_WITHIN = 0.3

/** Mass, area and air as planned; stretch and filling by the riser force; steady from a third of the descent on. */
export function proposeDescent({ plan, table: { t, channels } }: ProposedFrom<DescentPlan>): Record<string, unknown> {
  const { mass, referenceArea, frameRate } = plan ?? {}
  const known = {
    ...(mass ? { mass } : {}),
    ...(referenceArea ? { referenceArea } : {}),
    ...omitUndefined({ temperature: plan?.temperature, pressure: plan?.pressure }),
    ...(plan && plan.heightFrom !== 'altitude' ? { heightFrom: plan.heightFrom } : {}),
    ...(frameRate ? { frameRate } : {}),
  }
  const times = t.length > 0 ? t : (channels['frame'] ?? new Float64Array(0)).map(f => f / (frameRate ?? 1))
  const height = channels['altitude'] ?? channels['airPressure']?.map(p => -p)
  if (!height || times.length < 3) return known
  const riser = channels['riserForce']
  const opening = riser ? openingOf(times, riser) : null
  const events = opening ? { stretchTime: times[opening.stretch]!, fullTime: times[opening.full]! } : {}
  const highest = indexOfMax(height)
  // It lands after it was highest: a record may begin on the ground as well.
  const lowest = height.reduce((m, v, i) => (i > highest && v < height[m]! ? i : m), highest)
  // It is carried until it hangs no more, or lands.
  const ends = Math.min(times[Math.max(lowest, highest)]!, opening ? times[opening.released]! : Infinity)
  const begins = events.fullTime ?? times[highest]!
  const steadyWindow = shownWindow(times, begins + STEADY.from * (ends - begins), begins + STEADY.to * (ends - begins))
  const [e, n] = [channels['east'], channels['north']]
  const landed = Math.max(lowest, highest)
  const isPlaced = e && n && Number.isFinite(e[landed]) && Number.isFinite(n[landed])
  return {
    ...known,
    ...(steadyWindow ? { steadyWindow } : {}),
    ...events,
    ...(isPlaced ? { landing: [shown(e[landed]!), shown(n[landed]!)] } : {}),
    ...phasesBy(plan, events.stretchTime, steadyWindow, times),
  }
}

/** To the decimetre. */
const shown = (metres: number): number => Number(metres.toFixed(1))

/** Of a stage's time, that in which it has come to rest. */
const RESTS = { from: 0.4, to: 0.95 }

/** Phases as the plan's stages have them, counted from the riser's step; the last is that of the steady descent. */
function phasesBy(
  plan: DescentPlan | null,
  stretch: number | undefined,
  steady: readonly [number, number] | null,
  times: Float64Array,
): { phases?: { name: string; window: [number, number] }[] } {
  const stages = plan?.loading.kind === 'canopy' ? (plan.loading.settings as CanopySettings).stages : []
  if (stages.length < 2 || stretch === undefined || !steady) return {}
  const phases = stages.flatMap(({ share, after }, i) => {
    const next = stages[i + 1]
    const [begins, ends] = [stretch + after, next ? stretch + next.after : steady[1]]
    const window = next
      ? shownWindow(times, begins + RESTS.from * (ends - begins), begins + RESTS.to * (ends - begins))
      : ([...steady] as [number, number])
    return window ? [{ name: next ? `reefed to ${percent(share)}` : 'full', window }] : []
  })
  return { phases }
}

/**
 * The riser's step: the first sample from which on it carries, over a twentieth of the time it does, at least half of
 * what it carries most of the time. A snatch while the pack comes off is shorter, a jerk on landing comes later.
 */
function openingOf(t: Float64Array, force: Float64Array): { stretch: number; full: number; released: number } | null {
  const read = force.filter(f => f > LOADED * force[indexOfMax(force)]!)
  if (read.length < FEWEST_LOADED) return null
  const steady = median(read)
  const span = Math.max(2, Math.round(read.length / 20))
  const sums = new Float64Array(force.length + 1)
  for (let i = 0; i < force.length; i++) sums[i + 1] = sums[i]! + (force[i]! || 0)
  const carries = (i: number) => (sums[Math.min(force.length, i + span)]! - sums[i]!) / span >= CARRIED * steady
  let step = -1
  for (let i = 0; i < force.length && step < 0; i++) if (force[i]! > CARRIED * steady && carries(i)) step = i
  // Tension from the first samples on is no opening.
  if (step < FEWEST_BEFORE) return null
  let released = force.length - 1
  while (released > step && !(force[released]! > CARRIED * steady)) released--
  const opens = force.subarray(step, step + Math.max(2, Math.round(OPENS_WITHIN * (released - step))))
  const full = step + indexOfMax(opens)
  let stretch = step
  while (stretch > 0 && force[stretch - 1]! > STRETCHED * force[full]!) stretch--
  return { stretch, full, released }
}
