import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import type { Planning } from '../../plan/planning'
import { indexOfMax } from '../../signal/rising'
import { windowRange } from '../../signal/window'

/** What tells how high it is. */
export const HEIGHT_FROM = ['altitude', 'air pressure', 'video frames'] as const

const own = {
  mass: quantity('mass', { title: 'Mass that descends', positive: true }).optional(),
  referenceArea: quantity('area', { title: 'Reference area', positive: true }).optional(),
  temperature: quantity('temperature', { title: 'Temperature at altitude 0', positive: true }).optional(),
  pressure: quantity('pressure', { title: 'Pressure at altitude 0', positive: true }).optional(),
  heightFrom: z.enum(HEIGHT_FROM).default('altitude').meta({ title: 'Height is told by' }),
  frameRate: quantity('frequency', { title: 'Pictures a second', positive: true }).optional(),
  vent: quantity('length', { title: 'Vent', min: 0 }).optional(),
}

export const descentPlan = planSchema(own, ['direct', 'drop'])
export type DescentPlan = z.output<typeof descentPlan>

export const descentPlanning: Planning<DescentPlan> = {
  loadings: ['direct', 'drop'],
  needed: [{ role: 'altitude', label: 'Altitude', kind: 'length' }],
  read: { role: 'altitude', kind: 'length' },
  readBy: { peakOpeningForce: 'riserForce' },
  own: z.object(own),
  setUp: [
    {
      key: 'set-up:0',
      text: 'Packed as written, pins and lines counted',
      why: 'A line over the edge is seen on the ground or in the air.',
    },
  ],
}

/** ISO 2533 at sea level. */
const STANDARD = { temperature: 288.15, pressure: 101_325 }
/** The steady part of a descent, as shares of the way from its highest to its lowest. */
const STEADY = { from: 0.35, to: 0.9 }
/**
 * Lines are stretched where the riser force first passes this share of its largest; the canopy is full at the largest.
 */
const STRETCHED = 0.05

/** Mass, area and air as planned; stretch and filling by the riser force; steady from a third of the descent on. */
export function proposeDescent({ plan, table: { t, channels } }: ProposedFrom<DescentPlan>): Record<string, unknown> {
  const { mass, referenceArea, frameRate } = plan ?? {}
  const known = {
    ...(mass ? { mass } : {}),
    ...(referenceArea ? { referenceArea } : {}),
    temperature: plan?.temperature ?? STANDARD.temperature,
    pressure: plan?.pressure ?? STANDARD.pressure,
    ...(plan && plan.heightFrom !== 'altitude' ? { heightFrom: plan.heightFrom } : {}),
    ...(frameRate ? { frameRate } : {}),
  }
  const times = t.length > 0 ? t : (channels['frame'] ?? new Float64Array(0)).map(f => f / (frameRate ?? 1))
  const height = channels['altitude'] ?? channels['airPressure']?.map(p => -p)
  if (!height || times.length < 3) return known
  const riser = channels['riserForce']
  const events = riser ? eventsOf(times, riser) : {}
  const highest = indexOfMax(height)
  const lowest = height.reduce((m, v, i) => (v < height[m]! ? i : m), highest)
  const begins = events.fullTime ?? times[highest]!
  const lasts = times[Math.max(lowest, highest)]! - begins
  const steadyWindow = [begins + STEADY.from * lasts, begins + STEADY.to * lasts].map(v => Math.round(v * 100) / 100)
  return { ...known, ...(lasts > 0 ? { steadyWindow } : {}), ...events }
}

function eventsOf(t: Float64Array, force: Float64Array): { stretchTime?: number; fullTime?: number } {
  const peak = indexOfMax(force)
  const stretch = force.findIndex(f => f > STRETCHED * force[peak]!)
  // Tension from the first sample on is no opening.
  if (stretch <= 0 || stretch >= peak || windowRange(t, [t[0]!, t[stretch]!])[1] < 3) return {}
  return { stretchTime: Math.round(t[stretch]! * 1000) / 1000, fullTime: Math.round(t[peak]! * 1000) / 1000 }
}
