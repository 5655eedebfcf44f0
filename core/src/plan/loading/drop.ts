import * as z from 'zod'
import { energyAndStandoff } from '../../calc/planning/stored-energy'
import { sameDimension, STANDARD_GRAVITY } from '../../quantity/index'
import { KINDS } from '../../quantity/kinds'
import { mayWait, plain, quantity } from '../../method/settings'
import { box, type Drawing, type DrawingItem } from '../drawing'
import { stop, warn, type Finding } from '../finding'
import { column, defineLoading, fact, openFieldsOf, openFinding, type LoadingContext } from './loading'

const settings = z.object({
  mass: mayWait(quantity('mass', { title: 'Falling mass', positive: true })),
  guideLoss: plain({ title: 'Lost in the guide', min: 0, max: 0.99 }).default(0),
  restitution: plain({ title: 'Restitution expected', min: 0, max: 1 }).default(0.2),
  cfc: plain({ title: 'Channel frequency class', oneOf: [60, 180, 600, 1000] }).default(60),
  deceleration: quantity('acceleration', { title: 'Deceleration expected', positive: true }).optional(),
  stroke: quantity('length', { title: 'Space to crush', positive: true }).optional(),
  tower: quantity('length', { title: 'Height of the guide', positive: true }).optional(),
  size: quantity('length', { title: 'Height of the article', positive: true }).default(0.5),
})

type Settings = z.output<typeof settings>

const OPEN = {
  mass: { title: 'The falling mass', hangs: 'energy and stand-off', isNeeded: true, ofArticle: true },
} as const

const velocityFrom = (s: Settings, height: number): number =>
  Math.sqrt(2 * STANDARD_GRAVITY * height * (1 - s.guideLoss))
const heightFor = (s: Settings, velocity: number): number => velocity ** 2 / (2 * STANDARD_GRAVITY * (1 - s.guideLoss))

/** A mass that falls down a guide; rungs are heights, or the velocities that they give. */
export const drop = defineLoading({
  kind: 'drop',
  title: 'Drop',
  purpose: 'Height or velocity, guide loss, stroke and rebound',
  settings,
  usual: { goal: 1, rate: 10_000 },
  start: { cfc: 60 },
  commanded: () => ({ role: 'height', label: 'Drop height', kind: 'length' }),
  readTarget:
    s =>
    ({ si, dimension }) => {
      if (dimension === null || sameDimension(dimension, KINDS.length.dimension)) return si
      return sameDimension(dimension, KINDS.velocity.dimension)
        ? heightFor(s, si)
        : 'This must be a height (m) or the velocity at impact (m/s).'
    },
  view(s, context) {
    const { rungs, top, show } = context
    const { mass } = s
    const velocities = rungs.map(r => velocityFrom(s, r.target))
    const height = rungs[top]?.target ?? 0
    const velocity = velocities[top] ?? 0
    const strokeAt = (v: number) => (s.deceleration ? v ** 2 / (2 * s.deceleration) : null)
    const fall =
      mass === undefined
        ? { energy: null, standoff: null }
        : height > 0
          ? energyAndStandoff({ kind: 'mass', mass, height })
          : { energy: 0, standoff: 3 }
    return {
      set: [
        column('velocity', 'At impact', 'velocity', velocities, { shown: true }),
        ...(mass === undefined
          ? []
          : [
              column(
                'energy',
                'Energy',
                'energy',
                rungs.map(r => mass * STANDARD_GRAVITY * r.target),
              ),
            ]),
        ...(s.deceleration ? [column('stroke', 'Stroke', 'length', velocities.map(strokeAt))] : []),
      ],
      facts: [
        fact('Velocity at impact', velocity, 'velocity'),
        fact('Rebound', (s.restitution * velocity) ** 2 / (2 * STANDARD_GRAVITY), 'length'),
        fact('Sample rate needed', 10 * s.cfc, 'frequency'),
        ...(s.deceleration ? [fact('Stroke needed', strokeAt(velocity), 'length')] : []),
      ],
      tables: [],
      hazards: [
        {
          id: 'falling',
          energy: fall.energy,
          standoff: fall.standoff,
          why:
            `${mass === undefined ? 'A mass that nobody has entered' : show(mass, 'mass')} falls ` +
            `${show(height, 'length')} and rebounds ` +
            `${show((s.restitution * velocity) ** 2 / (2 * STANDARD_GRAVITY), 'length')}.`,
        },
      ],
      findings: [
        ...openFieldsOf({ open: OPEN }, s).map(([key, field]) => openFinding(`loading.${key}`, field)),
        ...findings(s, height, strokeAt(velocity), context),
      ],
      drawing: drawTower(s, height, strokeAt(velocity), velocity, show),
    }
  },
})

function findings(
  s: Settings,
  height: number,
  stroke: number | null,
  { rungs, top, sampleRate, show }: LoadingContext,
): Finding[] {
  const list: Finding[] = []
  const path = `rungs.${rungs[top]?.source ?? 0}.target`
  if (s.tower && height + s.size > s.tower)
    list.push(
      stop(
        'tower-height',
        path,
        `The top rung lifts the article to ${show(height + s.size, 'length')}; the guide ends at ` +
          `${show(s.tower, 'length')}.`,
        `Drop from ${show(Math.max(0, s.tower - s.size), 'length')} at most.`,
      ),
    )
  if (stroke !== null && s.stroke && stroke > s.stroke)
    list.push(
      stop(
        'stroke-too-short',
        path,
        `Stopping takes ${show(stroke, 'length')}; there are ${show(s.stroke, 'length')} to crush.`,
        `Drop from ${show((height * s.stroke) / stroke, 'length')}, or expect it to bottom out and plan for the peak.`,
      ),
    )
  if (sampleRate < 10 * s.cfc)
    list.push(
      stop(
        'rate-too-low',
        'rate',
        `Class ${s.cfc} wants ten times its number in samples: ${show(10 * s.cfc, 'frequency')}; the plan records ` +
          `${show(sampleRate, 'frequency')}.`,
        `Record at ${show(10 * s.cfc, 'frequency')} or more.`,
      ),
    )
  if (s.guideLoss === 0)
    list.push(
      warn(
        'guide-loss',
        'loading.guideLoss',
        'No loss in the guide is planned.',
        'Measure the velocity at impact, or enter what the guide takes.',
      ),
    )
  return list
}

/** Guide, article at its height and at impact, the space it crushes and how far it comes back. */
function drawTower(
  s: Settings,
  height: number,
  stroke: number | null,
  velocity: number,
  show: LoadingContext['show'],
): Drawing {
  const half = s.size / 2
  const tower = Math.max(s.tower ?? 0, height + s.size * 1.15)
  const pad = Math.max(s.stroke ?? stroke ?? s.size * 0.15, s.size * 0.08)
  const rebound = (s.restitution * velocity) ** 2 / (2 * STANDARD_GRAVITY)
  const bottomOf = (up: number) => -pad - up
  const items: DrawingItem[] = [
    {
      is: 'line',
      points: [
        [-half * 1.25, 0],
        [-half * 1.25, -tower - pad],
      ],
      tone: 'link',
    },
    {
      is: 'line',
      points: [
        [half * 1.25, 0],
        [half * 1.25, -tower - pad],
      ],
      tone: 'link',
    },
    { is: 'area', points: box(-half, bottomOf(0) - s.size, half, bottomOf(0)), tone: 'rest' },
    {
      is: 'area',
      points: box(-half, bottomOf(height) - s.size, half, bottomOf(height)),
      tone: 'article',
      label: s.mass === undefined ? '' : show(s.mass, 'mass'),
    },
    { is: 'area', points: box(-half, -pad, half, 0), tone: 'soft' },
    {
      is: 'line',
      points: [
        [-half * 3, 0],
        [half * 4, 0],
      ],
      tone: 'ground',
    },
    {
      is: 'measure',
      from: [half * 1.25, bottomOf(height)],
      to: [half * 1.25, bottomOf(0)],
      value: height,
      kind: 'length',
      tone: 'plain',
      side: 'right',
      name: `to fall, ${show(velocity, 'velocity')} at impact`,
    },
  ]
  if (rebound > 0)
    items.push({
      is: 'measure',
      from: [-half * 1.25, bottomOf(rebound)],
      to: [-half * 1.25, bottomOf(0)],
      value: rebound,
      kind: 'length',
      tone: 'predicted',
      side: 'left',
      name: 'rebound',
    })
  if (stroke !== null)
    items.push({
      is: 'measure',
      from: [-half * 1.25, -pad],
      to: [-half * 1.25, -pad + Math.min(stroke, pad)],
      value: stroke,
      kind: 'length',
      tone: 'predicted',
      side: 'right',
      name: 'stroke',
    })
  return {
    title: `${s.mass === undefined ? 'Article' : show(s.mass, 'mass')} dropped from ${show(height, 'length')}`,
    from: [-half * 4, -tower - pad],
    to: [half * 6, 0],
    toScale: true,
    items,
  }
}
