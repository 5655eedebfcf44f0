import * as z from 'zod'
import { area, type Breakpoint } from '../../calc/planning/vibration-spec'
import { sameDimension } from '../../quantity/index'
import { KINDS } from '../../quantity/kinds'
import { quantity } from '../../method/settings'
import { box, type Drawing, type DrawingItem } from '../drawing'
import { stop, type Finding } from '../finding'
import { percent } from '../percent'
import { column, defineLoading, fact, type LoadingContext } from './loading'

const settings = z.object({
  breakpoints: z
    .array(
      z.object({
        frequency: quantity('frequency', { title: 'Frequency', positive: true }),
        density: quantity('accelerationDensity', { title: 'Density', positive: true }),
      }),
    )
    .min(2)
    .meta({ title: 'Full level' }),
  articleMass: quantity('mass', { title: 'Article', positive: true }),
  fixtureMass: quantity('mass', { title: 'Fixture', min: 0 }).default(0),
  armatureMass: quantity('mass', { title: 'Moving part of the shaker', min: 0 }).default(0),
  forceRating: quantity('force', { title: 'Shaker’s force, peak', positive: true }).optional(),
  travel: quantity('length', { title: 'Shaker’s travel, peak to peak', positive: true }).optional(),
})

type Settings = z.output<typeof settings>

/** Rms of the full level, and of its displacement: density over (2πf)⁴, whose pieces are straight in logarithms too. */
function rmsOf(points: readonly Breakpoint[]): { acceleration: number; displacement: number } {
  const sum = (list: readonly Breakpoint[]) => list.slice(1).reduce((s, b, i) => s + area(list[i]!, b), 0)
  return {
    acceleration: Math.sqrt(sum(points)),
    displacement: Math.sqrt(
      sum(points.map(p => ({ frequency: p.frequency, density: p.density / (2 * Math.PI * p.frequency) ** 4 }))),
    ),
  }
}

const movingMass = (s: Settings): number => s.articleMass + s.fixtureMass + s.armatureMass

/** Peaks that a random signal reaches, in rms. */
const PEAK = 3

/** Random levels on a shaker; rungs are g rms, or dB below the full level. */
export const shaker = defineLoading({
  kind: 'shaker',
  title: 'Shaker',
  purpose: 'Random levels up to a specification, against force and travel',
  settings,
  usual: { goal: 30, rate: 5000 },
  start: {
    breakpoints: [
      { frequency: 20, density: { value: 0.005, unit: 'g²/Hz' } },
      { frequency: 100, density: { value: 0.02, unit: 'g²/Hz' } },
      { frequency: 500, density: { value: 0.02, unit: 'g²/Hz' } },
    ],
  },
  isExample: true,
  open: {
    articleMass: {
      title: 'The article’s mass',
      hangs: 'the force that is asked of the shaker',
      isNeeded: true,
      ofArticle: true,
    },
  },
  openHazard: { id: 'shaking', why: 'Loose parts come off.' },
  commanded: () => ({ role: 'drive', label: 'Level, rms', kind: 'acceleration' }),
  readTarget:
    s =>
    ({ si, dimension }) => {
      if (dimension === null || sameDimension(dimension, KINDS.acceleration.dimension)) return si
      return sameDimension(dimension, KINDS.level.dimension)
        ? rmsOf(s.breakpoints).acceleration * 10 ** (si / 20)
        : 'This must be an rms acceleration (g) or a level against full (dB).'
    },
  view(s, context) {
    const { rungs, top, show } = context
    const full = rmsOf(s.breakpoints)
    const share = (r: number) => r / full.acceleration
    const mass = movingMass(s)
    const highest = rungs[top]?.target ?? 0
    return {
      set: [
        column(
          'level',
          'Against full, dB',
          'words',
          rungs.map(r => (r.target > 0 ? (20 * Math.log10(share(r.target))).toFixed(1).replace('-', '−') : '')),
          { shown: true },
        ),
        column(
          'force',
          'Force, 3σ',
          'force',
          rungs.map(r => PEAK * mass * r.target),
        ),
        column(
          'travel',
          'Travel, peak to peak',
          'length',
          rungs.map(r => 2 * PEAK * full.displacement * share(r.target)),
        ),
      ],
      facts: [
        fact('Full level, rms', full.acceleration, 'acceleration'),
        fact('Moving mass', mass, 'mass'),
        fact('Force at the top, 3σ', PEAK * mass * highest, 'force'),
      ],
      tables: [],
      hazards: [
        {
          id: 'shaking',
          energy: null,
          standoff: null,
          why:
            `${show(mass, 'mass')} move with ${show(PEAK * highest, 'acceleration')} at peaks; loose ` +
            `parts come off.`,
        },
        { id: 'noise', energy: null, standoff: null, why: 'A shaker near its force is louder than ears stand.' },
      ],
      findings: findings(s, highest, full, context),
      drawing: drawTable(s, highest, context),
    }
  },
})

function findings(
  s: Settings,
  highest: number,
  full: { acceleration: number; displacement: number },
  { rungs, top, show }: LoadingContext,
): Finding[] {
  const path = `rungs.${rungs[top]?.source ?? 0}.target`
  const force = PEAK * movingMass(s) * highest
  const travel = 2 * PEAK * full.displacement * (highest / full.acceleration)
  const list: Finding[] = []
  if (s.forceRating && force > s.forceRating)
    list.push(
      stop(
        'shaker-force',
        path,
        `The top level asks ${show(force, 'force')} of a shaker that gives ${show(s.forceRating, 'force')} ` +
          `(${percent(force / s.forceRating)}).`,
        `End at ${show(s.forceRating / (PEAK * movingMass(s)), 'acceleration')} rms, or take mass off the fixture.`,
      ),
    )
  if (s.travel && travel > s.travel)
    list.push(
      stop(
        'shaker-travel',
        path,
        `The top level travels ${show(travel, 'length')} from peak to peak; the shaker has ` +
          `${show(s.travel, 'length')}.`,
        `End at ${show((highest * s.travel) / travel, 'acceleration')} rms, or cut the lowest frequencies.`,
      ),
    )
  return list
}

function drawTable(s: Settings, highest: number, { show }: LoadingContext): Drawing {
  const items: DrawingItem[] = [
    { is: 'area', points: box(-0.55, 0.1, 0.55, 0.7), tone: 'fixture' },
    { is: 'area', points: box(-0.3, -0.02, 0.3, 0.1), tone: 'soft' },
    { is: 'area', points: box(-0.4, -0.1, 0.4, -0.02), tone: 'fixture' },
    { is: 'area', points: box(-0.28, -0.6, 0.28, -0.1), tone: 'article' },
    {
      is: 'line',
      points: [
        [-0.9, 0.7],
        [1.5, 0.7],
      ],
      tone: 'ground',
    },
    { is: 'text', at: [0, -0.32], text: 'article', value: s.articleMass, kind: 'mass', anchor: 'middle', tone: 'ink' },
    {
      is: 'text',
      at: [0.5, -0.04],
      text: 'fixture',
      value: s.fixtureMass,
      kind: 'mass',
      anchor: 'start',
      tone: 'quiet',
    },
    { is: 'text', at: [0, 0.42], text: 'shaker', anchor: 'middle', tone: 'ink' },
    {
      is: 'force',
      at: [-0.75, -0.2],
      toward: [0, -1],
      value: highest,
      kind: 'acceleration',
      share: 0.5,
      tone: 'load',
      name: 'rms',
    },
    {
      is: 'force',
      at: [-0.75, 0.0],
      toward: [0, 1],
      value: highest,
      kind: 'acceleration',
      share: 0.5,
      tone: 'load',
      name: '',
    },
  ]
  return {
    title: `Article of ${show(s.articleMass, 'mass')} on a shaker`,
    from: [-1, -0.65],
    to: [1.5, 0.7],
    toScale: false,
    items,
  }
}
