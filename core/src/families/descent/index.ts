import * as z from 'zod'
import { defineReducer } from '../../method/define'
import { quantity, timeWindow } from '../../method/settings'
import { reduceDescent } from './reduce'

const settings = z.object({
  mass: quantity('mass', { title: 'Mass', positive: true }),
  referenceArea: quantity('area', { title: 'Reference area', positive: true }),
  steadyWindow: timeWindow('Steady descent'),
  temperature: quantity('temperature', { title: 'Temperature at altitude 0', positive: true }),
  pressure: quantity('pressure', { title: 'Pressure at altitude 0', positive: true }),
  stretchTime: quantity('time', { title: 'Lines stretched at' }).optional(),
  fullTime: quantity('time', { title: 'Full at' }).optional(),
  stretchSpeed: quantity('velocity', { title: 'Speed at stretch', positive: true }).optional(),
})

export type DescentSettings = z.output<typeof settings>

/** Descent under a canopy: rate, drag area, filling and opening load. */
export const descent = defineReducer({
  id: 'descent',
  title: 'Descent',
  purpose: 'Rate of descent, drag area, filling and opening load of a canopy',
  version: '1.0.0',
  roles: { t: { label: 'Time', kind: 'time' }, altitude: { label: 'Altitude', kind: 'length' }, riserForce: { label: 'Riser force', kind: 'force', optional: true } },
  settings,
  results: {
    descentRate: { label: 'Rate of descent', kind: 'velocity', limited: 'atMost' },
    seaLevelRate: { label: 'Rate of descent at sea level', kind: 'velocity', limited: 'atMost' },
    peakOpeningForce: { label: 'Peak opening force', kind: 'force', limited: 'atMost' },
    dragArea: { label: 'Drag area', kind: 'area', limited: 'atLeast' },
    dragCoefficient: { label: 'Drag coefficient', kind: 'ratio' },
    fillTime: { label: 'Fill time', kind: 'time', limited: 'atMost' },
    openingFactor: { label: 'Opening factor', kind: 'ratio', limited: 'atMost' },
    massRatio: { label: 'Mass ratio', kind: 'ratio' },
  },
  reduce: reduceDescent,
})
