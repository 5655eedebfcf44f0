import * as z from 'zod'
import { defineReducer } from '../../method/define'
import { quantity, timeWindow } from '../../method/settings'
import { reduceCrush } from './reduce'

const settings = z.object({
  linearMass: quantity('massPerLength', { title: 'Mass per length', positive: true }),
  length: quantity('length', { title: 'Length', positive: true }).optional(),
  zeroStart: timeWindow('Zero at the start').optional(),
})

export type CrushSettings = z.output<typeof settings>

/** Crush of tubes, foams and honeycombs: peak, plateau, how far it goes and what it takes. */
export const crush = defineReducer({
  id: 'crush',
  title: 'Crush',
  purpose: 'Force over displacement: initial peak, mean force, stroke and specific energy',
  version: '1.0.0',
  roles: { t: { label: 'Time', kind: 'time', optional: true }, force: { label: 'Force', kind: 'force' }, displacement: { label: 'Displacement', kind: 'length' } },
  settings,
  results: {
    specificEnergy: { label: 'Specific energy', kind: 'specificEnergy', limited: 'atLeast' },
    meanForce: { label: 'Mean crush force', kind: 'force' },
    initialPeak: { label: 'Initial peak', kind: 'force', limited: 'atMost' },
    energy: { label: 'Energy', kind: 'energy', limited: 'atLeast' },
    densification: { label: 'Densification', kind: 'length', limited: 'atLeast' },
    forceEfficiency: { label: 'Force efficiency', kind: 'ratio', limited: 'atLeast' },
    strokeEfficiency: { label: 'Stroke efficiency', kind: 'ratio', limited: 'atLeast' },
  },
  reduce: reduceCrush,
})
