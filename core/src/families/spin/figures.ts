import type { FigureOutline } from '../../family/contract'
import { thinned, zeroMarks, type Axis, type Figure } from '../../method/figure'
import type { Reduction, ResultTable } from '../../method/reduction'
import { curveThrough } from '../../statistics/polynomial'
import type { SpinSettings } from './settings'
import { LIMITED, limitedOf, NAMES, type LimitedQuantity } from './limited'

const setpoint = { label: 'Set-point', kind: 'ratio' } as const
const numbers = (points: ResultTable, column: string) => points.columns[column] as (number | null)[] | undefined

/** A column of the points over their set-points. */
function over(column: string, y: Axis): FigureOutline<SpinSettings>['draw'] {
  return ({ tables }): Figure | null => {
    const points = tables['points']!
    const values = numbers(points, column)
    return values
      ? {
          x: setpoint,
          y,
          series: [
            { name: 'Measured', style: 'points', x: numbers(points, 'setpoint')!, y: values },
            { name: y.label, style: 'measured', x: numbers(points, 'setpoint')!, y: values },
          ],
          lines: [],
        }
      : null
  }
}

/** A limited quantity over set-points, with where it is heading and the limit. */
function heading(
  r: Pick<Reduction, 'tables'>,
  s: SpinSettings,
  quantity: LimitedQuantity,
  limit: number,
): Figure | null {
  const points = r.tables['points']!
  const [x, y] = [numbers(points, 'setpoint')!, numbers(points, quantity)]
  if (!y) return null
  const known = x.flatMap((v, i) => (y[i] == null ? [] : [{ x: v!, y: y[i]! }]))
  const last = s.nextSetpoint ?? known.at(-1)!.x
  const steps = Array.from({ length: 25 }, (_, i) => known[0]!.x + ((last - known[0]!.x) * i) / 24)
  return {
    x: setpoint,
    y: { label: NAMES[quantity][0]!.toUpperCase() + NAMES[quantity].slice(1), kind: LIMITED[quantity] },
    series: [
      { name: 'Measured', style: 'points', x, y },
      { name: 'Projected', style: 'predicted', x: steps, y: steps.map(v => curveThrough(known, v, s.holdTolerance)) },
    ],
    lines: [
      { axis: 'y', value: limit, label: 'limit' },
      ...(s.nextSetpoint === undefined ? [] : [{ axis: 'x' as const, value: s.nextSetpoint, label: 'next' }]),
    ],
  }
}

const projections = Object.fromEntries(
  (Object.keys(LIMITED) as LimitedQuantity[]).map((quantity): [string, FigureOutline<SpinSettings>] => [
    `next:${quantity}`,
    {
      title: `Next: ${NAMES[quantity]}`,
      draw(r, s) {
        const limit = s.limits ? limitedOf(s.limits).find(([q]) => q === quantity)?.[1] : undefined
        return limit === undefined ? null : heading(r, s, quantity, limit)
      },
    },
  ]),
)

export const spinFigures: Record<string, FigureOutline<SpinSettings>> = {
  thrustSetpoint: { title: 'Thrust', draw: over('thrust', { label: 'Thrust', kind: 'force' }) },
  efficiencySetpoint: { title: 'Efficiency', draw: over('efficiency', { label: 'Efficiency', kind: 'ratio' }) },
  thrustPerPower: {
    title: 'Thrust a watt',
    draw: over('thrustPerWatt', { label: 'Thrust a watt', kind: 'thrustPerPower' }),
  },
  oncePerTurn: {
    title: 'Once a turn',
    draw: over('oncePerTurn', { label: 'Vibration once a turn', kind: 'acceleration' }),
  },
  ...projections,
  record: {
    title: 'Set-point over time',
    draw({ traces, tables }, s): Figure {
      const { t, setpoint: y } = traces as { t: Float64Array; setpoint: Float64Array }
      const points = tables['points']!
      return {
        x: { label: 'Time', kind: 'time' },
        y: setpoint,
        series: [{ name: 'Set-point', style: 'measured', ...thinned(t, y) }],
        lines: [],
        bands: [
          ...numbers(points, 'start')!.map((from, i) => ({
            from: from! + s.settle,
            to: numbers(points, 'end')![i]!,
            label: String(i + 1),
          })),
          ...zeroMarks(s.zeroStart).bands,
        ],
        handles: zeroMarks(s.zeroStart).handles,
      }
    },
  },
}
