import * as z from 'zod'
import { loadBetween } from '../../calc/planning/distribution'
import { checkStations, planStations, stationPlanFields } from '../../calc/planning/station-plan'
import { quantity } from '../../method/settings'
import { stop, type Finding } from '../finding'
import { percent } from '../percent'
import { bentHazard } from './bentHazard'
import { column, defineLoading, fact, type LoadingContext, type LoadingTable } from './loading'
import { pulls, spanDrawing } from './spanDrawing'
import { leverTreeOf } from './leverTree'

const settings = z
  .object({
    ...stationPlanFields,
    by: z.enum(['cylinders', 'lever tree']).default('cylinders').meta({ title: 'Brought in by' }),
    stationCapacity: quantity('force', { title: 'Capacity of a station', positive: true }).optional(),
    supply: quantity('pressure', { title: 'Supply pressure', positive: true }).optional(),
  })
  .superRefine((s, ctx) => checkStations(s, ctx))

type Settings = z.output<typeof settings>

/** Each station's share of the load; the target's shape is what counts, the ladder says how much. */
function sharesOf(s: Settings) {
  const { tables } = planStations(s)
  const forces = tables['stations']!.columns['force'] as number[]
  const whole = forces.reduce((a, b) => a + b, 0)
  return { shares: forces.map(f => f / whole), stations: tables['stations']!, tree: tables['tree']! }
}

/** A distributed load at a few stations: one cylinder each, or a tree of beams to one jack. */
export const stations = defineLoading({
  kind: 'stations',
  title: 'Stations',
  purpose: 'A distributed load at a few stations, by cylinders or a tree of levers',
  settings,
  usual: { goal: 2000 },
  isExample: true,
  start: {
    stations: [
      { y: { value: 0, unit: 'm' }, load: { value: 1.6, unit: 'kN/m' } },
      { y: { value: 2, unit: 'm' }, load: { value: 0.8, unit: 'kN/m' } },
    ],
    positions: [
      { value: 0.25, unit: 'm' },
      { value: 0.75, unit: 'm' },
      { value: 1.25, unit: 'm' },
      { value: 1.75, unit: 'm' },
    ],
  },
  commanded: () => ({ role: 'load', label: 'Load', kind: 'force' }),
  place(s, targets) {
    const { shares } = sharesOf(s)
    return targets.map(t => s.positions.map((x, i) => ({ x, force: shares[i]! * t })))
  },
  view(s, context) {
    const { rungs, top, span } = context
    const { shares, tree } = sharesOf(s)
    const { cylinderArea } = s
    const highest = rungs[top]?.target ?? 0
    const whole = loadBetween(s.stations, s.stations[0]!.y, s.stations.at(-1)!.y)
    const byCylinders = s.by === 'cylinders'
    return {
      set:
        byCylinders && cylinderArea
          ? s.positions.map((_, i) =>
              column(
                `s${i + 1}`,
                `S${i + 1}`,
                'pressure',
                rungs.map(r => (r.target * shares[i]!) / cylinderArea),
              ),
            )
          : s.positions.map((_, i) =>
              column(
                `s${i + 1}`,
                `S${i + 1}`,
                'force',
                rungs.map(r => r.target * shares[i]!),
              ),
            ),
      facts: [
        fact('Centre of the load', whole.moment / whole.force, 'length'),
        fact('Moment at the start', highest * (whole.moment / whole.force), 'torque'),
        fact('Largest station', Math.max(...shares) * highest, 'force'),
      ],
      tables: [
        {
          title: 'Stations at the top rung',
          columns: [
            column(
              'station',
              'Station',
              'words',
              s.positions.map((_, i) => `S${i + 1}`),
            ),
            column('at', 'At', 'length', s.positions),
            column(
              'force',
              'Force',
              'force',
              shares.map(x => x * highest),
            ),
            ...(cylinderArea
              ? [
                  column(
                    'pressure',
                    'Pressure',
                    'pressure',
                    shares.map(x => (x * highest) / cylinderArea),
                  ),
                ]
              : []),
          ],
        },
        ...(byCylinders ? [] : treeTable(tree, highest / whole.force)),
      ],
      hazards: [
        bentHazard(context),
        ...(byCylinders && cylinderArea
          ? [
              {
                id: 'hydraulic' as const,
                energy: null,
                standoff: null,
                why: `Hoses stand under ${context.show((Math.max(...shares) * highest) / cylinderArea, 'pressure')}.`,
              },
            ]
          : []),
      ],
      findings: findings(s, shares, context),
      drawing: byCylinders
        ? spanDrawing(
            `${s.positions.length} stations with a cylinder each`,
            context,
            span ? pulls(span, i => `S${i + 1}`) : () => [],
          )
        : leverTreeOf(
            spanDrawing(
              `${s.positions.length} stations on a tree of levers`,
              context,
              span ? pulls(span, i => `S${i + 1}`) : () => [],
            ),
            tree,
            s.positions.map((x, i) => ({ x, force: shares[i]! * highest })),
          ),
    }
  },
})

function treeTable(tree: ReturnType<typeof sharesOf>['tree'], scale: number): LoadingTable[] {
  const c = tree.columns
  if ((c['level'] as number[]).length === 0) return []
  return [
    {
      title: 'Levers, from the stations up',
      columns: [
        column(
          'beam',
          'Lever',
          'words',
          (c['level'] as number[]).map((_, i) => `B${i + 1}`),
        ),
        column(
          'joins',
          'Joins',
          'words',
          (c['left'] as string[]).map((l, i) => `${l} and ${c['right']![i]!}`),
        ),
        column('at', 'Pulled at', 'length', c['position'] as number[]),
        column(
          'force',
          'Force',
          'force',
          (c['force'] as number[]).map(f => f * scale),
        ),
        column('ratio', 'Right over left', 'ratio', c['leverRatio'] as number[]),
      ],
    },
  ]
}

function findings(s: Settings, shares: readonly number[], { rungs, top, show }: LoadingContext): Finding[] {
  const highest = rungs[top]?.target ?? 0
  const list: Finding[] = []
  shares.forEach((share, i) => {
    const force = share * highest
    const path = `loading.positions.${i}`
    if (share < 0)
      list.push(
        stop(
          'station-pushes',
          path,
          `Station S${i + 1} would have to push (${show(force, 'force')}) to make the target’s moment.`,
          'Move the stations so that their middle lies nearer to the centre of the load.',
        ),
      )
    else if (s.stationCapacity && force > s.stationCapacity)
      list.push(
        stop(
          'station-capacity',
          path,
          `Station S${i + 1} pulls ${show(force, 'force')} at the top rung; it carries ` +
            `${show(s.stationCapacity, 'force')}.`,
          `End the ladder at ${show(s.stationCapacity / share, 'force')}, or put a station more near ` +
            `${show(s.positions[i]!, 'length')}.`,
        ),
      )
    else if (s.by === 'cylinders' && s.cylinderArea && s.supply && force / s.cylinderArea > s.supply)
      list.push(
        stop(
          'supply-pressure',
          path,
          `S${i + 1} needs ${show(force / s.cylinderArea, 'pressure')} of a supply of ` +
            `${show(s.supply, 'pressure')} (${percent(force / s.cylinderArea / s.supply)}).`,
          `A cylinder of at least ${((1e4 * force) / s.supply).toPrecision(3)} cm² would do.`,
        ),
      )
  })
  return list
}
