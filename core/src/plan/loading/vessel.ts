import * as z from 'zod'
import { energyAndStandoff } from '../../calc/planning/stored-energy'
import { mayWait, plain, quantity } from '../../method/settings'
import { box, type Drawing, type DrawingItem, type DrawnPoint } from '../drawing'
import { stop, warn, type Finding } from '../finding'
import { column, defineLoading, fact, openFieldsOf, openFinding, type LoadingContext } from './loading'
import { blockDrawing } from './rig'

const settings = z.object({
  medium: z.enum(['water', 'gas']).default('water').meta({ title: 'Filled with' }),
  volume: mayWait(quantity('volume', { title: 'Volume', positive: true })),
  radius: mayWait(quantity('length', { title: 'Radius', positive: true })),
  ratedPressure: quantity('pressure', { title: 'Rated pressure', positive: true }).optional(),
  pump: quantity('pressure', { title: 'Rated capacity of pump and hoses', positive: true }).optional(),
  gamma: plain({ title: 'Ratio of specific heats', positive: true, min: 1.01 }).default(1.4),
  bulkModulus: quantity('pressure', { title: 'Bulk modulus of the liquid', positive: true }).default(2.2e9),
  ambientPressure: quantity('pressure', { title: 'Ambient pressure', positive: true }).default(101325),
})

type Settings = z.output<typeof settings>

const OPEN = {
  volume: { title: 'The volume', hangs: 'stored energy and stand-off', isNeeded: true, ofArticle: true },
  radius: { title: 'The radius', hangs: 'line loads and the drawing to scale', ofArticle: true },
} as const

function storedAt(
  s: Settings,
  medium: Settings['medium'],
  pressure: number,
): { energy: number | null; standoff: number | null } {
  if (s.volume === undefined) return { energy: null, standoff: null }
  if (!(pressure > 0)) return { energy: 0, standoff: 0 }
  return energyAndStandoff(
    medium === 'gas'
      ? { kind: 'gas', pressure, volume: s.volume, gamma: s.gamma, ambientPressure: s.ambientPressure }
      : { kind: 'liquid', pressure, volume: s.volume, bulkModulus: s.bulkModulus },
  )
}

/** A vessel, bag or bladder under inner pressure, filled with water or with gas. */
export const vessel = defineLoading({
  kind: 'vessel',
  title: 'Vessel under pressure',
  purpose: 'Water or gas: stored energy and stand-off at each rung',
  settings,
  usual: { goal: 1e6, lookFrom: 0.8 },
  start: {},
  commanded: () => ({ role: 'pressure', label: 'Pressure', kind: 'pressure' }),
  view(s, context) {
    const { rungs, top, show } = context
    const { radius } = s
    const at = rungs.map(r => storedAt(s, s.medium, r.target))
    const highest = rungs[top]?.target ?? 0
    const stored = storedAt(s, s.medium, highest)
    const length = lengthOf(s)
    const other = storedAt(s, s.medium === 'gas' ? 'water' : 'gas', highest)
    return {
      set: [
        column(
          'energy',
          'Stored',
          'energy',
          at.map(a => a.energy),
        ),
        column(
          'standoff',
          'Stand-off',
          'length',
          at.map(a => a.standoff),
          { unit: 'm' },
        ),
        ...(radius === undefined
          ? []
          : [
              column(
                'hoop',
                'Hoop line load',
                'loadPerLength',
                rungs.map(r => r.target * radius),
              ),
            ]),
      ],
      facts: [
        fact('Hoop line load', radius === undefined ? null : highest * radius, 'loadPerLength'),
        fact('Axial line load', radius === undefined ? null : (highest * radius) / 2, 'loadPerLength'),
        ...(length === null ? [] : [fact('Length between the ends', length, 'length')]),
        ...(s.ratedPressure ? [fact('Over rated', highest / s.ratedPressure, 'ratio')] : []),
      ],
      tables: [],
      hazards: [
        {
          id: 'pressure',
          energy: stored.energy,
          standoff: stored.standoff,
          why:
            s.volume === undefined || other.energy === null
              ? 'Without the volume nobody knows what is stored in it.'
              : `${show(s.volume, 'volume')} of ${s.medium} at ${show(highest, 'pressure')}. ` +
                `${s.medium === 'gas' ? 'Water' : 'Gas'} would store ${show(other.energy, 'energy')}.`,
        },
      ],
      findings: [
        ...openFieldsOf({ open: OPEN }, s).map(([key, field]) => openFinding(`loading.${key}`, field)),
        ...findings(s, highest, stored.energy === null ? null : stored.energy / Math.max(other.energy!, 1e-9), context),
      ],
      drawing: length === null ? blockVessel(s, highest) : drawVessel(s.radius!, length, s, context),
    }
  },
})

/** As a cylinder with flat ends that holds its volume. */
const lengthOf = ({ volume, radius }: Settings): number | null =>
  volume === undefined || radius === undefined ? null : volume / (Math.PI * radius ** 2)

function findings(
  s: Settings,
  highest: number,
  timesTheOther: number | null,
  { rungs, top, show }: LoadingContext,
): Finding[] {
  const list: Finding[] = []
  if (s.medium === 'gas')
    list.push(
      warn(
        'gas-medium',
        'loading.medium',
        timesTheOther === null
          ? 'Gas stores hundreds of times the energy of water.'
          : `Gas stores ${timesTheOther.toPrecision(2)} times the energy of water here.`,
        'Fill with water unless the article cannot bear it.',
      ),
    )
  if (s.pump && highest > s.pump)
    list.push(
      stop(
        'pump-capacity',
        `rungs.${rungs[top]?.source ?? 0}.target`,
        `The top rung asks ${show(highest, 'pressure')} of a pump and hoses rated for ${show(s.pump, 'pressure')}.`,
        `End at ${show(s.pump, 'pressure')}, or take another pump.`,
      ),
    )
  return list
}

/** Of which nobody knows how large it is. */
const blockVessel = (s: Settings, pressure: number): Drawing =>
  blockDrawing(`Vessel filled with ${s.medium}, its size not known`, [
    { text: s.medium === 'gas' ? 'compressor' : 'pump', tone: 'fixture' },
    { text: s.medium, value: pressure, kind: 'pressure', tone: 'soft' },
    { text: 'article', tone: 'article' },
  ])

const SHELL = 0.012

/** The vessel lying on its stand, its fill, the line to the pump; all lengths to scale but the wall. */
function drawVessel(R: number, L: number, s: Settings, { rungs, top, show }: LoadingContext): Drawing {
  const ends = 14
  const bulge = Math.min(R, L / 2) * 0.35
  const arc = (side: -1 | 1): DrawnPoint[] =>
    Array.from({ length: ends + 1 }, (_, i) => {
      const a = -Math.PI / 2 + (Math.PI * i) / ends
      return [side * (L / 2 + bulge * Math.cos(a)), side * R * Math.sin(a)]
    })
  const skin = [...arc(1), ...arc(-1)]
  const pressure = rungs[top]?.target ?? 0
  const pumpX = L / 2 + bulge + R * 0.9
  const inner = (f: number): DrawnPoint[] => skin.map(([x, y]) => [x * f, y * f])
  const items: DrawingItem[] = [
    { is: 'area', points: skin, tone: 'article' },
    { is: 'area', points: inner(1 - SHELL * 4), tone: s.medium },
    { is: 'area', points: box(-L * 0.3 - R * 0.1, R, -L * 0.3 + R * 0.1, R * 1.35), tone: 'fixture' },
    { is: 'area', points: box(L * 0.3 - R * 0.1, R, L * 0.3 + R * 0.1, R * 1.35), tone: 'fixture' },
    {
      is: 'line',
      points: [
        [-L / 2 - bulge - R * 0.2, R * 1.35],
        [pumpX + R * 0.5, R * 1.35],
      ],
      tone: 'ground',
    },
    {
      is: 'line',
      points: [
        [L / 2 + bulge, 0],
        [pumpX, 0],
        [pumpX, R * 0.7],
      ],
      tone: 'link',
    },
    { is: 'area', points: box(pumpX - R * 0.3, R * 0.7, pumpX + R * 0.3, R * 1.35), tone: 'fixture' },
    {
      is: 'text',
      at: [pumpX, R * 0.62],
      text: s.medium === 'gas' ? 'compressor' : 'pump',
      anchor: 'middle',
      tone: 'quiet',
    },
    ...(
      [
        [0, -1],
        [0, 1],
      ] as const
    ).map((toward): DrawingItem => ({
      is: 'force',
      at: [L * 0.3, toward[1] * R * 0.94],
      toward,
      value: pressure,
      kind: 'pressure',
      share: 0.35,
      tone: 'load',
    })),
    { is: 'measure', from: [-L / 2, -R], to: [L / 2, -R], value: L, kind: 'length', tone: 'plain', side: 'above' },
    {
      is: 'measure',
      from: [-L / 2 - bulge, 0],
      to: [-L / 2 - bulge, R],
      value: R,
      kind: 'length',
      tone: 'plain',
      side: 'left',
    },
    { is: 'text', at: [-L * 0.22, 0], text: s.medium, value: s.volume!, kind: 'volume', anchor: 'middle', tone: 'ink' },
  ]
  return {
    title: `Vessel of ${show(s.volume!, 'volume')} with ${s.medium} at ${show(pressure, 'pressure')}`,
    from: [-L / 2 - bulge - R * 0.3, -R * 1.1],
    to: [pumpX + R * 0.5, R * 1.35],
    toScale: true,
    items,
  }
}
