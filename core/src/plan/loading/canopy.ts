import * as z from 'zod'
import { descentPlan, isInside } from '../../calc/planning/descent-plan'
import type { PredictedValue } from '../../method/prediction'
import { issue, mayWait, plain, quantity } from '../../method/settings'
import { STANDARD_GRAVITY } from '../../quantity/units'
import type { Drawing, DrawingItem, DrawnPoint } from '../drawing'
import { stop, warn, type Finding } from '../finding'
import { percent } from '../percent'
import { fly, type Flown } from './canopyFlight'
import {
  column,
  defineLoading,
  fact,
  openFinding,
  type LoadingContext,
  type LoadingTable,
  type OpenField,
  type SetColumn,
} from './loading'
import { blockDrawing } from './rig'

const settings = z
  .object({
    carrierSpeed: quantity('velocity', { title: 'Carrier’s speed', min: 0 }).default(0),
    course: quantity('angle', { title: 'Carrier’s course, from north' }).default(0),
    delay: mayWait(quantity('time', { title: 'Exit to first opening', min: 0 })),
    looseArea: quantity('area', { title: 'Drag area before opening', min: 0 }).default(0),
    dragCoefficient: mayWait(plain({ title: 'Drag coefficient expected', positive: true, max: 3 })),
    openingFactor: mayWait(plain({ title: 'Opening factor expected', positive: true, max: 5 })),
    stages: z
      .array(
        z.object({
          share: plain({ title: 'Of the full drag area', positive: true, max: 1 }),
          after: quantity('time', { title: 'After first opening', min: 0 }),
          spread: quantity('time', { title: 'Spread of its timer', min: 0 }).default(0),
        }),
      )
      .default([])
      .meta({ title: 'Reefing stages; none: full at once' }),
    layers: z
      .array(
        z.object({
          altitude: quantity('length', { title: 'Lower end', min: 0 }),
          speed: quantity('velocity', { title: 'Wind', min: 0 }),
          from: quantity('angle', { title: 'From' }),
        }),
      )
      .default([])
      .meta({ title: 'Wind by layer' }),
    field: z
      .array(z.tuple([quantity('length'), quantity('length')]))
      .min(3)
      .optional()
      .meta({ title: 'Field: east, north of the exit' }),
    windSpread: plain({ title: 'Wind off by, share (1σ)', min: 0, max: 1 }).default(0.2),
    directionSpread: quantity('angle', { title: 'Its direction off by (1σ)', min: 0 }).default(0.17),
    rateSpread: plain({ title: 'Rate of descent off by, share (1σ)', min: 0, max: 0.5 }).default(0.08),
    exitSpread: quantity('length', { title: 'Exit off by (1σ)', min: 0 }).default(20),
    openingSpread: plain({ title: 'Opening factor off by, share (1σ)', min: 0, max: 1 }).default(0.2),
  })
  .superRefine((s, ctx) => {
    const late = s.stages.findIndex((g, i) => i > 0 && !(g.after > s.stages[i - 1]!.after))
    if (late > 0) issue(ctx, 'setting-range', 'A stage opens after the one before it.', ['stages', late, 'after'])
    if (s.stages[0] && s.stages[0].after !== 0)
      issue(ctx, 'setting-range', 'The first stage is what first opens: it stands at 0 s.', ['stages', 0, 'after'])
  })

export type CanopySettings = z.output<typeof settings>

/** What a plan of a descent says beside how it is released, SI. */
export interface Hung {
  mass?: number | undefined
  referenceArea?: number | undefined
}

/** How a canopy is expected to come down from a height. */
export interface CanopyForecast {
  flown: Flown
  /** m² when full. */
  full: number
  stages: { share: number; at: number; spread: number; dragArea: number }[]
  /** N at each stage's opening; null where no opening factor is expected, or it lands before. */
  loads: (number | null)[]
  /** 95 % of the landings, about where it lands; null without wind. */
  ellipse: { major: number; minor: number; bearing: number; inside: number | null } | null
}

const OPEN = {
  mass: {
    title: 'The mass that descends',
    hangs: 'rate, opening loads and landing place',
    isNeeded: true,
    ofArticle: true,
  },
  referenceArea: { title: 'The canopy’s area', hangs: 'rate, opening loads and landing place', ofArticle: true },
  dragCoefficient: { title: 'The drag coefficient', hangs: 'rate, opening loads and landing place', ofArticle: true },
  delay: { title: 'When it first opens', hangs: 'opening loads and landing place' },
} as const satisfies Record<string, OpenField>

/** Draws for the ellipse of a plan that is being typed; the worksheet draws more. */
const [DRAWS, SEED] = [1500, 1]

/** @returns null where mass, area, drag coefficient or delay are not known, or where there is no height */
export function forecastCanopy(s: CanopySettings, hung: Hung, height: number): CanopyForecast | null {
  const { delay, dragCoefficient } = s
  const { mass, referenceArea } = hung
  if (!mass || !referenceArea || !dragCoefficient || delay === undefined || !(height > 0)) return null
  const full = dragCoefficient * referenceArea
  const stages = (s.stages.length > 0 ? s.stages : [{ share: 1, after: 0, spread: 0 }]).map(g => ({
    share: g.share,
    at: delay + g.after,
    spread: g.spread,
    dragArea: g.share * full,
  }))
  const flown = fly({
    height,
    speed: s.carrierSpeed,
    course: s.course,
    mass,
    loose: s.looseArea,
    stages,
    wind: s.layers,
  })
  const loads = flown.openings.map((o, i) =>
    o === null || s.openingFactor === undefined ? null : s.openingFactor * o.dynamicPressure * stages[i]!.dragArea,
  )
  return { flown, full, stages, loads, ellipse: ellipseOf(s, flown) }
}

/** By the drift plan, from where the last stage opens. */
function ellipseOf(s: CanopySettings, { openings, path, time, east, north }: Flown): CanopyForecast['ellipse'] {
  const last = openings.findLast(o => o !== null)
  if (s.layers.length === 0 || !last || !(time > last.t)) return null
  const at = path.findLast(p => p.t <= last.t) ?? path[0]!
  const { results } = descentPlan.calculate(
    descentPlan.settings.parse({
      layers: s.layers,
      rate: last.height / (time - last.t),
      exitAltitude: last.height,
      openingAltitude: last.height,
      start: [at.east, at.north],
      ...(s.field ? { field: s.field } : {}),
      scatter: {
        speed: s.windSpread,
        direction: s.directionSpread,
        rate: s.rateSpread,
        exit: s.exitSpread,
        draws: DRAWS,
        seed: SEED,
      },
    }),
    undefined as never,
  )
  const value = (key: string) => results[key]?.value ?? 0
  const inside = s.field ? isInside([east, north], s.field) : null
  return {
    major: value('ellipseMajor'),
    minor: value('ellipseMinor'),
    bearing: value('ellipseBearing'),
    inside: inside === null ? null : (results['probabilityInside']?.value ?? (inside ? 1 : 0)),
  }
}

/** 95 % of a plane normal distribution lie within this many standard deviations. */
const AXES_95 = Math.sqrt(5.991464547107979)

/** What is foretold of the results, to be locked before the run. */
export function canopyPredictions(s: CanopySettings, hung: Hung, height: number): PredictedValue[] {
  const f = forecastCanopy(s, hung, height)
  if (!f) return []
  const { flown, loads, ellipse } = f
  const largest = Math.max(...loads.map(l => l ?? -Infinity))
  const along = (axis: 'east' | 'north'): number => {
    if (!ellipse) return 0
    const [a, b] = [ellipse.major / AXES_95, ellipse.minor / AXES_95]
    const [sin, cos] = [Math.sin(ellipse.bearing), Math.cos(ellipse.bearing)]
    return axis === 'east' ? Math.hypot(a * sin, b * cos) : Math.hypot(a * cos, b * sin)
  }
  return [
    { quantity: 'descentRate', value: flown.rate, u: s.rateSpread * flown.rate },
    { quantity: 'dragArea', value: f.full, u: 2 * s.rateSpread * f.full },
    ...(Number.isFinite(largest)
      ? [{ quantity: 'peakOpeningForce', value: largest, u: s.openingSpread * largest }]
      : []),
    ...(ellipse
      ? [
          { quantity: 'landingEast', value: flown.east, u: along('east') },
          { quantity: 'landingNorth', value: flown.north, u: along('north') },
        ]
      : []),
  ]
}

/** The landing area's outline, m east and north of below the exit. */
export function landingArea({ flown, ellipse }: CanopyForecast): { x: number[]; y: number[] } | null {
  if (!ellipse) return null
  const points = Array.from({ length: 49 }, (_, i) => {
    const a = (2 * Math.PI * i) / 48
    const [u, v] = [ellipse.major * Math.cos(a), ellipse.minor * Math.sin(a)]
    const [sin, cos] = [Math.sin(ellipse.bearing), Math.cos(ellipse.bearing)]
    return [flown.east + u * sin + v * cos, flown.north + u * cos - v * sin] as const
  })
  return { x: points.map(p => p[0]), y: points.map(p => p[1]) }
}

/** A mass under a canopy, let go from a carrier at a height; the canopy opens at once or by stages, in a wind. */
export const canopy = defineLoading({
  kind: 'canopy',
  title: 'Released under a canopy',
  purpose: 'Exit, delay, reefing stages and wind: opening loads and landing area',
  settings,
  usual: { goal: 300, rate: 100, lookFrom: 2 },
  start: {},
  commanded: () => ({ role: 'releaseHeight', label: 'Height of the exit', kind: 'length' }),
  view(s, context) {
    const { rungs, top, show, own } = context
    const hung = own as Hung
    const height = rungs[top]?.target ?? 0
    const known = new Map<number, CanopyForecast | null>()
    const forecastAt = (h: number) => {
      if (!known.has(h)) known.set(h, forecastCanopy(s, hung, h))
      return known.get(h)!
    }
    const at = rungs.map(r => forecastAt(r.target))
    const f = forecastAt(height)
    return {
      set: f ? columnsOf(at) : [],
      facts: [
        fact('Rate at the ground', f?.flown.rate ?? null, 'velocity'),
        fact('Time to the ground', f?.flown.time ?? null, 'time'),
        fact('Lands from the exit', f ? Math.hypot(f.flown.east, f.flown.north) : null, 'length'),
        ...(f?.ellipse ? [fact('95 % land within', f.ellipse.major, 'length')] : []),
        ...(f?.ellipse?.inside == null ? [] : [fact('Inside the field', f.ellipse.inside, 'ratio')]),
      ],
      tables: f ? [stageTable(f)] : [],
      hazards: [
        {
          id: 'falling',
          energy: hung.mass ? hung.mass * STANDARD_GRAVITY * height : null,
          standoff: f?.ellipse ? f.ellipse.major : null,
          why: f
            ? `${show(hung.mass!, 'mass')} come down with ${show(f.flown.rate, 'velocity')} under the canopy` +
              `${f.ellipse ? `, 95 of 100 within ${show(f.ellipse.major, 'length')} of the place foretold` : ''}; ` +
              'without it, as they fall.'
            : 'What comes down, how fast and where is not known yet.',
        },
      ],
      findings: findings(s, hung, f, context),
      drawing: f ? drawMap(s, f, height, show) : emptyMap,
    }
  },
})

const emptyMap: Drawing = blockDrawing('Carrier, canopy and field', [
  { text: 'carrier', tone: 'fixture' },
  { text: 'canopy', tone: 'article' },
  { text: 'field', tone: 'soft' },
])

const columnsOf = (at: readonly (CanopyForecast | null)[]): SetColumn[] => [
  column(
    'time',
    'To the ground',
    'time',
    at.map(f => f?.flown.time ?? null),
  ),
  column(
    'opening',
    'Air at first opening',
    'velocity',
    at.map(f => f?.flown.openings[0]?.speed ?? null),
    { shown: true },
  ),
  column(
    'load',
    'Largest opening load',
    'force',
    at.map(f => (f?.loads.some(l => l !== null) ? Math.max(...f.loads.map(l => l ?? 0)) : null)),
  ),
  column(
    'rate',
    'Rate at the ground',
    'velocity',
    at.map(f => f?.flown.rate ?? null),
  ),
]

const stageTable = ({ stages, flown, loads }: CanopyForecast): LoadingTable => ({
  title: 'Stages, from the highest exit',
  columns: [
    column(
      'stage',
      'Stage',
      'words',
      stages.map((g, i) => (i === stages.length - 1 && g.share === 1 ? 'full' : `${i + 1}, ${percent(g.share)}`)),
    ),
    column(
      'area',
      'Drag area',
      'area',
      stages.map(g => g.dragArea),
    ),
    column(
      'at',
      'Opens',
      'time',
      stages.map(g => g.at),
    ),
    column(
      'height',
      'At',
      'length',
      flown.openings.map(o => o?.height ?? null),
    ),
    column(
      'speed',
      'Air past it',
      'velocity',
      flown.openings.map(o => o?.speed ?? null),
    ),
    column('load', 'Opening load', 'force', [...loads]),
  ],
})

/** So sure it is to come down inside the field before nobody is told. */
const INSIDE = 0.95

function findings(
  s: CanopySettings,
  hung: Hung,
  f: CanopyForecast | null,
  { rungs, top, show }: LoadingContext,
): Finding[] {
  const said: Record<string, unknown> = { ...hung, dragCoefficient: s.dragCoefficient, delay: s.delay }
  const list: Finding[] = Object.entries(OPEN).flatMap(([key, field]) =>
    said[key] === undefined
      ? [openFinding(key in hung || key === 'mass' || key === 'referenceArea' ? key : `loading.${key}`, field)]
      : [],
  )
  if (s.layers.length === 0)
    list.push(
      openFinding('loading.layers', {
        title: 'The wind',
        hangs: 'drift, landing place and landing area',
        isNeeded: true,
      }),
    )
  else if (s.layers.every(l => l.speed === 0))
    list.push(
      warn(
        'no-wind',
        'loading.layers.0.speed',
        'The wind is 0 in every layer: it lands below the exit, whatever blows.',
        'Measure it at the hour, or enter the most that you would go out in.',
      ),
    )
  if (!s.field) list.push(openFinding('loading.field', { title: 'The field', hangs: 'whether it comes down inside' }))
  if (f && s.openingFactor === undefined)
    list.push(openFinding('loading.openingFactor', { title: 'The opening factor', hangs: 'opening loads' }))
  if (!f) return list
  f.stages.forEach((g, i) => {
    const path = i === 0 ? 'loading.delay' : `loading.stages.${i}.after`
    if (f.flown.openings[i] === null)
      list.push(
        stop(
          'stage-after-landing',
          path,
          `${i === 0 ? 'It first opens' : `Stage ${i + 1} opens`} ${show(g.at, 'time')} after the exit; from ` +
            `${show(rungs[top]!.target, 'length')} it is on the ground after ${show(f.flown.time, 'time')}.`,
          'Open earlier, or go out higher.',
        ),
      )
    else if (g.spread > 0 && g.at + 2 * g.spread >= f.flown.time)
      list.push(
        warn(
          'stage-near-landing',
          path,
          `A timer that is late by twice its spread opens stage ${i + 1} at ${show(g.at + 2 * g.spread, 'time')}; it ` +
            `lands at ${show(f.flown.time, 'time')}.`,
          'Open earlier, go out higher, or take a better timer.',
        ),
      )
  })
  if (f.ellipse?.inside != null && f.ellipse.inside < INSIDE)
    list.push(
      warn(
        'outside-field',
        'loading.field',
        `It comes down inside the field with a chance of ${percent(f.ellipse.inside)}.`,
        'Move the exit upwind, go out lower, or wait for less wind.',
      ),
    )
  return list
}

/** The map: exit, way down, landing area and field, north above. */
function drawMap(s: CanopySettings, f: CanopyForecast, height: number, show: LoadingContext['show']): Drawing {
  const at = (east: number, north: number): DrawnPoint => [east, -north]
  const outline = landingArea(f)
  const area = outline ? outline.x.map((x, i) => at(x, outline.y[i]!)) : []
  const field = (s.field ?? []).map(([e, n]) => at(e, n))
  const way = f.flown.path.map(p => at(p.east, p.north))
  const all = [...way, ...area, ...field]
  const span = Math.max(
    ...[0, 1].map(k => Math.max(...all.map(p => p[k]!)) - Math.min(...all.map(p => p[k]!))),
    0.2 * height,
  )
  const edge = 0.12 * span
  const [left, right] = [Math.min(...all.map(p => p[0])) - 3 * edge, Math.max(...all.map(p => p[0])) + 3 * edge]
  const [up, down] = [Math.min(...all.map(p => p[1])) - edge, Math.max(...all.map(p => p[1])) + edge]
  const landing = way.at(-1)!
  // Names stand on the far sides of what they name.
  const side = landing[0] >= way[0]![0] ? 1 : -1
  const label = (p: DrawnPoint, to: number, text: string, clear = 0): DrawingItem => ({
    is: 'text',
    at: [p[0] + to * (0.03 * span + clear), p[1]],
    text,
    anchor: to > 0 ? 'start' : 'end',
    tone: 'ink',
  })
  const items: DrawingItem[] = [
    ...(field.length > 0 ? [{ is: 'line' as const, points: [...field, field[0]!], tone: 'ground' as const }] : []),
    ...(area.length > 0 ? [{ is: 'area' as const, points: area, tone: 'soft' as const }] : []),
    { is: 'line', points: way, tone: 'link' },
    { is: 'circle', at: way[0]!, radius: 0.012 * span, tone: 'fixture' },
    { is: 'circle', at: landing, radius: 0.012 * span, tone: 'article' },
    label(way[0]!, -side, `exit at ${show(height, 'length')}`),
    label(landing, side, `lands with ${show(f.flown.rate, 'velocity')}`, f.ellipse?.major),
    { is: 'text', at: [right - 0.3 * edge, up + 0.5 * edge], text: 'north ↑', anchor: 'end', tone: 'quiet' },
  ]
  return {
    title: `Way down from ${show(height, 'length')}, landing area and field from above`,
    from: [left, up],
    to: [right, down],
    toScale: true,
    items,
  }
}
