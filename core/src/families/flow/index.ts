import * as z from 'zod'
import { defineReducer, type Role } from '../../method/define'
import { issue, plain, quantity } from '../../method/settings'
import { reduceBench } from './bench'
import { reduceMap } from './map'

const lift = quantity('length', { title: 'Lift', min: 0 })

const settings = z.object({
  kind: z.enum(['bench', 'map']).default('bench').meta({ title: 'What was read' }),
  referenceDrop: quantity('pressure', { title: 'Reference pressure difference', positive: true }).optional(),
  valveDiameter: quantity('length', { title: 'Valve diameter', positive: true }).optional(),
  valves: plain({ title: 'Valves', positive: true, whole: true }).default(1),
  liftRange: z.tuple([lift, lift]).optional().meta({ title: 'Range of lifts', kind: 'length' }),
  baseline: z.string().optional().meta({ title: 'Baseline' }),
  subject: z.string().optional().meta({ title: 'Compared' }),
}).transform((s, ctx) => {
  if (s.kind === 'map') return s
  if (s.referenceDrop === undefined) issue(ctx, 'missing-setting', 'Corrected flows need a reference pressure difference.', ['referenceDrop'])
  if (s.liftRange === undefined) issue(ctx, 'missing-setting', 'A mean flow needs a range of lifts.', ['liftRange'])
  else if (!(s.liftRange[0] < s.liftRange[1])) issue(ctx, 'setting-range', 'A range must end above where it begins.', ['liftRange'])
  return s
})

export type FlowSettings = z.output<typeof settings>

const air: Record<string, Role> = { temperature: { label: 'Air temperature', kind: 'temperature', optional: true }, baro: { label: 'Barometer', kind: 'pressure', optional: true } }
const bench: Record<string, Role> = { config: { label: 'Configuration', kind: 'text' }, lift: { label: 'Lift', kind: 'length' }, flow: { label: 'Flow', kind: 'volumeFlow' }, drop: { label: 'Pressure difference', kind: 'pressure' }, ...air }
const map: Record<string, Role> = { x: { label: 'x', kind: 'length' }, y: { label: 'y', kind: 'length' }, q: { label: 'Dynamic pressure', kind: 'pressure' }, ...air }

/** Flow bench: corrected flow over lift of several configurations; or the velocities of a probe map. */
export const flow = defineReducer({
  id: 'flow',
  title: 'Flow',
  purpose: 'Corrected flow over lift, gain point by point; or a map of velocities',
  version: '1.0.0',
  roles: bench,
  rolesOf: s => (s.kind === 'map' ? map : bench),
  settings,
  results: {
    meanFlow: { label: 'Mean flow', kind: 'volumeFlow', limited: 'atLeast' },
    gain: { label: 'Gain in mean flow', kind: 'volumeFlow', limited: 'atLeast' },
    worstLoss: { label: 'Largest loss at one lift', kind: 'volumeFlow', limited: 'atMost' },
    worstLift: { label: 'Lift of the largest loss', kind: 'length' },
    meanVelocity: { label: 'Mean velocity', kind: 'velocity' },
    peakVelocity: { label: 'Largest velocity', kind: 'velocity', limited: 'atMost' },
    uniformity: { label: 'Uniformity', kind: 'ratio', limited: 'atLeast' },
  },
  reduce: (table, s) => (s.kind === 'map' ? reduceMap(table) : reduceBench(table, s)),
})
