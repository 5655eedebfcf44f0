import * as z from 'zod'
import { bagFields, layBags, type BagSettings } from '../../calc/planning/bag-plan'
import { checkRising, loadBetween } from '../../calc/planning/distribution'
import { STANDARD_GRAVITY } from '../../quantity/index'
import { plain } from '../../method/settings'
import { stop, warn, type Finding } from '../finding'
import { percent } from '../percent'
import type { PointLoad } from '../model'
import { bentHazard } from './bentHazard'
import { column, defineLoading, fact, type LoadingContext } from './loading'
import { blocks, spanDrawing } from './spanDrawing'

const settings = z
  .object({
    ...bagFields,
    laying: z.enum(['row by row', 'in layers']).default('row by row').meta({ title: 'Laying' }),
    tolerance: plain({ title: 'Off the target at most', positive: true, max: 0.5 }).default(0.05),
  })
  .superRefine((s, ctx) => checkRising(s.stations, ctx, 'stations'))

type Settings = z.output<typeof settings>

/** The bag plan with the target scaled to a load: its shape is what counts, the ladder says how much. */
function planFor(s: Settings, load: number) {
  const whole = loadBetween(s.stations, s.stations[0]!.y, s.stations.at(-1)!.y).force
  return layBags({
    ...s,
    supportRungs: [],
    stations: s.stations.map(t => ({ ...t, load: (t.load * load) / whole })),
  } satisfies BagSettings)
}

interface Laid {
  rows: { y: number; from: number; to: number; bags: number }[]
  /** Rows in the order in which their bags go on. */
  order: number[]
  total: number
}

function layAll(s: Settings, load: number): Laid {
  const { rows } = planFor(s, load).tables
  const bags = rows.columns['bags'] as number[]
  const width = (s.stations.at(-1)!.y - s.stations[0]!.y) / s.rows
  const placed = (rows.columns['y'] as number[]).map((y, i) => ({
    y,
    from: y - width / 2,
    to: y + width / 2,
    bags: bags[i]!,
  }))
  const order = placed.map((_, i) => (s.first === 'tip' ? placed.length - 1 - i : i))
  return { rows: placed, order, total: bags.reduce((a, b) => a + b, 0) }
}

/** Bags in each row when so many lie on the span. In layers, the next bag goes where most of its share is lacking. */
function bagsOf({ rows, order, total }: Laid, s: Settings, n: number): number[] {
  const on = rows.map(() => 0)
  if (s.laying === 'row by row') {
    let left = Math.min(n, total)
    for (const row of order) {
      on[row] = Math.min(left, rows[row]!.bags)
      left -= on[row]!
    }
    return on
  }
  for (let k = 1; k <= Math.min(n, total); k++) {
    let [next, lack] = [-1, -Infinity]
    for (const row of order) {
      const lacking = (rows[row]!.bags * k) / total - on[row]!
      if (on[row]! < rows[row]!.bags && lacking > lack + 1e-12) [next, lack] = [row, lacking]
    }
    on[next]!++
  }
  return on
}

const countFor = (s: Settings, target: number): number => Math.round(target / (s.bagMass * STANDARD_GRAVITY))

/** Bags in every row at each target, and where they lie. */
function layLadder(s: Settings, targets: readonly number[]): { laid: Laid; on: number[][] } {
  const laid = layAll(s, Math.max(...targets, s.bagMass * STANDARD_GRAVITY))
  return { laid, on: targets.map(t => bagsOf(laid, s, countFor(s, t))) }
}

/** Bags of known mass in rows along a span, shared out like the target. */
export const bags = defineLoading({
  kind: 'bags',
  title: 'Bags on a span',
  purpose: 'Rows of bags: order, shear, bending and twist at each rung',
  settings,
  usual: { goal: 1500 },
  isExample: true,
  start: {
    stations: [
      { y: { value: 0, unit: 'm' }, load: { value: 1.6, unit: 'kN/m' } },
      { y: { value: 2, unit: 'm' }, load: { value: 0.8, unit: 'kN/m' } },
    ],
    bagMass: { value: 5, unit: 'kg' },
    rows: 8,
  },
  commanded: () => ({ role: 'load', label: 'Load', kind: 'force' }),
  place(s, targets) {
    const { laid, on } = layLadder(s, targets)
    return on.map(counts =>
      laid.rows.flatMap((r, i): PointLoad[] =>
        counts[i]! > 0 ? [{ x: r.y, force: counts[i]! * s.bagMass * STANDARD_GRAVITY }] : [],
      ),
    )
  },
  view(s, context) {
    const { rungs, top, span } = context
    const targets = rungs.map(r => r.target)
    const { laid, on } = layLadder(s, targets)
    const weight = s.bagMass * STANDARD_GRAVITY
    const root = s.stations[0]!.y
    const full = planFor(s, Math.max(targets[top] ?? 0, weight))
    const chordAt = twistArm(s)
    const sums = on.map(counts =>
      laid.rows.reduce(
        (sum, r, i) => ({
          bags: sum.bags + counts[i]!,
          bending: sum.bending + counts[i]! * weight * (r.y - root),
          twist: sum.twist + counts[i]! * weight * chordAt(r.y),
        }),
        { bags: 0, bending: 0, twist: 0 },
      ),
    )
    const whole = loadBetween(s.stations, root, s.stations.at(-1)!.y)
    const wantedBending = (t: number) => ((whole.moment - root * whole.force) * t) / whole.force
    const added = sums.map((x, i) => x.bags - (sums[i - 1]?.bags ?? 0))
    return {
      set: [
        column(
          'bags',
          'Bags on',
          'count',
          sums.map(x => x.bags),
          { shown: true },
        ),
        column(
          'added',
          'Put on',
          'words',
          added.map((n, i) => (n === 0 ? '' : `${n > 0 ? '+' : '−'}${Math.abs(n)}${rowsTouched(on[i - 1], on[i]!)}`)),
        ),
        column(
          'shear',
          'Shear at the root',
          'force',
          sums.map(x => x.bags * weight),
        ),
        column(
          'bending',
          'Bending at the root',
          'torque',
          sums.map(x => x.bending),
        ),
        column('wanted', 'Bending wanted', 'torque', targets.map(wantedBending)),
        ...(s.stations.some(t => t.chordCentre !== s.axis)
          ? [
              column(
                'twist',
                'Twist at the root',
                'torque',
                sums.map(x => x.twist),
              ),
            ]
          : []),
      ],
      facts: [
        fact('Bags to fetch', laid.total, 'count'),
        fact('Mass to fetch', laid.total * s.bagMass, 'mass'),
        fact('Off the target load', full.results['loadError']!.value, 'ratio'),
      ],
      tables: [
        {
          title: 'Rows',
          columns: [
            column(
              'row',
              'Row',
              'count',
              laid.rows.map((_, i) => i + 1),
            ),
            column(
              'y',
              'At',
              'length',
              laid.rows.map(r => r.y),
            ),
            column('target', 'Target', 'force', full.tables['rows']!.columns['target'] as number[]),
            column(
              'bags',
              'Bags',
              'count',
              laid.rows.map(r => r.bags),
            ),
          ],
        },
        {
          title: 'Off the target at the top rung',
          columns: [
            column('y', 'At', 'length', full.tables['deviation']!.columns['y'] as number[]),
            column('shear', 'Shear', 'force', full.tables['deviation']!.columns['shearDeviation'] as number[]),
            column('bending', 'Bending', 'torque', full.tables['deviation']!.columns['bendingDeviation'] as number[]),
          ],
        },
      ],
      hazards: [
        bentHazard(context),
        {
          id: 'weights',
          energy: null,
          standoff: null,
          why: `${context.show(laid.total * s.bagMass, 'mass')} lie above people’s feet when the article lets go.`,
        },
      ],
      findings: [
        ...momentFinding(s, targets[top] ?? 0, context),
        ...onTheWayFinding(s, context, (i, y) => ({
          made: laid.rows.reduce((m, r, k) => m + (r.y > y ? on[i]![k]! * weight * (r.y - y) : 0), 0),
          wanted: (m => ((m.moment - y * m.force) * targets[i]!) / whole.force)(
            loadBetween(s.stations, y, s.stations.at(-1)!.y),
          ),
        })),
        ...wholeBags(
          s,
          context,
          sums.map(x => x.bags * weight),
        ),
      ],
      drawing: spanDrawing(
        `${laid.total} bags in ${s.rows} rows`,
        context,
        deflection =>
          span
            ? blocks(
                deflection,
                span,
                laid.rows.map((r, i) => ({ ...r, load: on[top]?.[i] ?? 0, label: String(on[top]?.[i] ?? 0) })),
                span.length * 0.12,
                'bag',
              )
            : [],
        (span?.length ?? 1) * 0.14,
      ),
    }
  },
})

/** Arm of a bag about the axis of twist at y, straight between stations. */
function twistArm({ stations, axis }: Settings): (y: number) => number {
  return y => {
    const i = Math.max(
      1,
      stations.findIndex((t, k) => k > 0 && y <= t.y),
    )
    const [a, b] = [stations[i - 1]!, stations[i]!]
    return a.chordCentre + ((b.chordCentre - a.chordCentre) * (y - a.y)) / (b.y - a.y) - axis
  }
}

/** “ in rows 8–6”: where bags came or went since the rung before. */
function rowsTouched(before: readonly number[] | undefined, now: readonly number[]): string {
  const touched = now.flatMap((n, i) => (n !== (before?.[i] ?? 0) ? [i + 1] : []))
  if (touched.length === 0) return ''
  return touched.length === 1 ? ` in row ${touched[0]}` : ` in rows ${touched[0]}–${touched.at(-1)}`
}

/** How far the root's bending is off its target, as a share of it. */
function bendingError(s: Settings, load: number): number {
  const deviation = planFor(s, load).tables['deviation']!.columns['bendingDeviation'] as number[]
  const whole = loadBetween(s.stations, s.stations[0]!.y, s.stations.at(-1)!.y)
  return deviation[0]! / (((whole.moment - s.stations[0]!.y * whole.force) * load) / whole.force)
}

/** How many times lighter a bag is looked for. */
const LIGHTEST = 40

function momentFinding(s: Settings, load: number, { show }: LoadingContext): Finding[] {
  if (!(load > 0)) return []
  const off = bendingError(s, load)
  if (Math.abs(off) <= s.tolerance) return []
  // The heaviest bags that do, as a part of those planned; else more rows.
  const lighter = Array.from({ length: LIGHTEST - 1 }, (_, i): [string, Partial<Settings>] => [
    `bags of ${show(s.bagMass / (i + 2), 'mass')}`,
    { bagMass: s.bagMass / (i + 2) },
  ])
  const better = [...lighter, [`${2 * s.rows} rows`, { rows: 2 * s.rows }] as const].find(
    ([, change]) => Math.abs(bendingError({ ...s, ...change }, load)) <= s.tolerance,
  )
  return [
    stop(
      'bags-moment',
      'loading.bagMass',
      `These bags make ${percent(1 + off)} of the bending wanted at the root: ${percent(Math.abs(off))} off, ` +
        `where ${percent(s.tolerance)} is allowed.`,
      better ? `With ${better[0]} it would be within.` : 'Lighter bags and more rows come closer.',
    ),
  ]
}

/** Stations along the span at which the bending on the way up is looked at. */
const LOOKED_AT = 20
/** In tolerances, of the root's bending at the top rung: what a station is off by before it is named. */
const NOTICED = 2

/**
 * Before the last bag lies, the span is bent otherwise than it is to be: where, on which rung and by how much most.
 *
 * @param at  bending at a rung and at y, as the bags make it and as the target has it, N·m
 */
function onTheWayFinding(
  s: Settings,
  { rungs, top, show }: LoadingContext,
  at: (rung: number, y: number) => { made: number; wanted: number },
): Finding[] {
  const [root, tip] = [s.stations[0]!.y, s.stations.at(-1)!.y]
  const whole = at(top, root).wanted
  let worst = { rung: -1, y: root, share: 0, made: 0, wanted: 0 }
  rungs.forEach((r, i) => {
    if (i === top || !(r.target > 0) || r.cycle !== 1) return
    for (let k = 0; k < LOOKED_AT; k++) {
      const y = root + (k / LOOKED_AT) * (tip - root)
      const { made, wanted } = at(i, y)
      const share = (made - wanted) / whole
      if (Math.abs(share) > Math.abs(worst.share)) worst = { rung: r.source, y, share, made, wanted }
    }
  })
  if (Math.abs(worst.share) <= NOTICED * s.tolerance) return []
  return [
    warn(
      'bags-on-the-way',
      `rungs.${worst.rung}.target`,
      `On the way up the bags bend it otherwise than they are to, most at rung ${worst.rung + 1}, ` +
        `${show(worst.y - root, 'length')} from the root: ${show(worst.made, 'torque')} where ` +
        `${show(worst.wanted, 'torque')} are wanted (off by ${percent(Math.abs(worst.share))} of what the root ` +
        'bears at the top).',
      s.laying === 'in layers'
        ? 'Lay thinner layers: lighter bags, or more rungs.'
        : 'Lay in layers over all rows, or judge nothing before the top rung.',
    ),
  ]
}

/** A load is a whole number of bags. */
function wholeBags(s: Settings, { rungs, show }: LoadingContext, made: readonly number[]): Finding[] {
  const weight = s.bagMass * STANDARD_GRAVITY
  return rungs.flatMap((r, i) => {
    const off = r.target > 0 ? made[i]! / r.target - 1 : 0
    return Math.abs(off) > s.tolerance && r.cycle === 1
      ? [
          warn(
            'bags-whole',
            `rungs.${r.source}.target`,
            `Rung ${r.source + 1}: whole bags make ${show(made[i]!, 'force')}, ${percent(Math.abs(off))} off ` +
              `its target.`,
            `Set ${show(Math.max(1, countFor(s, r.target)) * weight, 'force')}, or take lighter bags.`,
          ),
        ]
      : []
  })
}
