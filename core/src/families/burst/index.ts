import * as z from 'zod'
import { defineReducer } from '../../method/define'
import { plain, quantity, timeWindow } from '../../method/settings'
import { reduceBurst } from './reduce'

const settings = z.object({
  volume: quantity('volume', { title: 'Volume', positive: true }).optional(),
  radius: quantity('length', { title: 'Radius', positive: true }),
  ratedPressure: quantity('pressure', { title: 'Rated pressure', positive: true }),
  requiredFactor: plain({ title: 'Factor that is asked', positive: true }),
  ambientPressure: quantity('pressure', { title: 'Ambient pressure', positive: true }).default(101_325),
  holds: z.array(timeWindow('Hold')).default([]).meta({ title: 'Holds' }),
  zeroStart: timeWindow('Zero at the start').optional(),
  gaugeFullScale: quantity('pressure', { title: 'Full scale of the gauge', positive: true }).optional(),
})

export type BurstSettings = z.output<typeof settings>

/** Pressure in steps to the burst: factor, line loads, and leaks in the holds with the temperature taken out. */
export const burst = defineReducer({
  id: 'burst',
  title: 'Burst',
  purpose: 'Pressure in steps to the burst: factor, line loads, leaks in the holds',
  version: '1.0.0',
  roles: { t: { label: 'Time', kind: 'time' }, pressure: { label: 'Pressure', kind: 'pressure' }, temperature: { label: 'Temperature', kind: 'temperature', optional: true } },
  settings,
  results: {
    burstPressure: { label: 'Burst pressure', kind: 'pressure', limited: 'atLeast' },
    burstFactor: { label: 'Burst factor', kind: 'ratio', limited: 'atLeast' },
    margin: { label: 'Margin', kind: 'ratio', limited: 'atLeast' },
    hoopLineLoad: { label: 'Hoop line load', kind: 'loadPerLength', limited: 'atLeast' },
    axialLineLoad: { label: 'Axial line load', kind: 'loadPerLength', limited: 'atLeast' },
    gaugeUtilisation: { label: 'Gauge used', kind: 'ratio' },
  },
  reduce: reduceBurst,
})
