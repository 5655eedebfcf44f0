import * as z from 'zod'
import { energyAndStandoff, storedEnergySettings } from '../../calc/planning/stored-energy'
import type { Kind } from '../../quantity/index'
import { column, defineLoading } from './loading'
import { blockDrawing } from './rig'

/** What else a rig is told to do. */
export const DIRECT_KINDS = [
  'voltage',
  'current',
  'power',
  'temperature',
  'velocity',
  'frequency',
  'length',
  'angle',
  'mass',
  'pressure',
  'force',
  'torque',
  'rotation',
  'acceleration',
] as const satisfies readonly Kind[]

const settings = z.object({
  commands: z.enum(DIRECT_KINDS).meta({ title: 'The rig is told a' }),
  name: z.string().min(1).meta({ title: 'Called' }),
  role: z
    .string()
    .regex(/^[a-zA-Z][a-zA-Z0-9_]*$/)
    .default('commanded')
    .meta({ title: 'Short name of its channel' }),
  stored: storedEnergySettings.optional().meta({ title: 'Energy stored in it' }),
})

/** Any other quantity that a rig is told: heating power, striker velocity, drive voltage, release height. */
export const direct = defineLoading({
  kind: 'direct',
  title: 'Set directly',
  purpose: 'Any quantity that the rig is told, as it is',
  settings,
  usual: { goal: 100 },
  start: { commands: 'power', name: 'Commanded' },
  commanded: s => ({ role: s.role, label: s.name, kind: s.commands }),
  view(s, { rungs, top, show }) {
    const highest = rungs[top]?.target ?? 0
    const stored = s.stored ? energyAndStandoff(s.stored) : null
    return {
      set: [
        column(
          'step',
          'Step',
          s.commands,
          rungs.map((r, i) => r.target - (rungs[i - 1]?.target ?? 0)),
        ),
      ],
      facts: [],
      tables: [],
      hazards: stored
        ? [
            {
              id: 'energy',
              energy: stored.energy,
              standoff: stored.standoff,
              why: `${show(stored.energy, 'energy')} are stored as entered.`,
            },
          ]
        : [{ id: 'energy', energy: null, standoff: null, why: 'No stored energy is entered; say what holds any.' }],
      findings: [],
      drawing: blockDrawing(`${s.name} set by the rig`, [
        { text: s.name, value: highest, kind: s.commands as 'power', tone: 'soft' },
        { text: 'article', tone: 'article' },
        { text: 'readings', tone: 'fixture' },
      ]),
    }
  },
})
