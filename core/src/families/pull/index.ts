import * as z from 'zod'
import { defineReducer } from '../../method/define'
import { plain, quantity, timeWindow } from '../../method/settings'
import { reducePull } from './reduce'

const settings = z.object({
  referenceStrength: quantity('force', { title: 'Strength when new', positive: true }),
  gaugeFullScale: quantity('force', { title: 'Full scale of the gauge', positive: true }).optional(),
  gaugeAccuracy: plain({ title: 'Accuracy of the gauge, of full scale', positive: true, max: 1 }).optional(),
  dropFraction: plain({ title: 'A break falls by', positive: true, max: 1 }).default(0.5),
  dropTime: quantity('time', { title: 'Within', positive: true }).default(0.5),
  zeroStart: timeWindow('Zero at the start').optional(),
  callouts: z.array(z.object({ force: quantity('force', { title: 'Called out', min: 0 }), t: quantity('time', { title: 'At' }).optional() })).min(1).optional(),
  increment: quantity('force', { title: 'Next increment', positive: true }).optional(),
  recordedPeak: quantity('force', { title: 'Peak as recorded', positive: true }).optional(),
  outcome: z.enum(['broke', 'no-failure']).default('broke').meta({ title: 'What ended the test' }),
})

export type PullSettings = z.output<typeof settings>

const roles = {
  t: { label: 'Time', kind: 'time' as const },
  force: { label: 'Force', kind: 'force' as const },
  displacement: { label: 'Displacement', kind: 'length' as const, optional: true },
}

/** Pull to break of ropes, straps, bars and joints: strength, what is retained of it, stiffness and energy. */
export const pull = defineReducer({
  id: 'pull',
  title: 'Pull',
  purpose: 'Force and stretch to the break: strength against new, stiffness, energy; or call-outs alone, as an interval',
  version: '1.0.0',
  roles,
  // What was only called out has no record.
  rolesOf: s => (s.callouts ? null : roles),
  settings,
  results: {
    peakForce: { label: 'Largest force', kind: 'force', limited: 'atLeast' },
    retained: { label: 'Retained strength', kind: 'ratio', limited: 'atLeast' },
    stiffness: { label: 'Stiffness', kind: 'stiffness', limited: 'atLeast' },
    energyToPeak: { label: 'Energy to the peak', kind: 'energy', limited: 'atLeast' },
    gaugeUtilisation: { label: 'Gauge used', kind: 'ratio' },
  },
  reduce: reducePull,
})
