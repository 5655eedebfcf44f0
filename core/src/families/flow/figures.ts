import type { FigureOutline } from '../../family/contract'
import { handlesOf, type Figure, type Series } from '../../method/figure'
import type { ResultTable } from '../../method/reduction'
import type { FlowSettings } from './settings'

const lift = { label: 'Lift', kind: 'length' } as const

/** A column of the curve table by configuration, over lift. */
function byConfig(curve: ResultTable, column: string): Series[] {
  const { config, lift: lifts, [column]: values } = curve.columns as Record<string, (number | string | null)[]>
  const names = [...new Set(config as string[])]
  return names.map((name, of) => {
    const at = config!.flatMap((c, i) => (c === name && values![i] !== null ? [i] : []))
    return { name, style: 'measured', of, x: at.map(i => lifts![i] as number), y: at.map(i => values![i] as number) }
  })
}

const range = (s: FlowSettings) =>
  s.liftRange ? [{ from: s.liftRange[0], to: s.liftRange[1], label: 'mean over this' }] : []

export const flowFigures: Record<string, FigureOutline<FlowSettings>> = {
  liftFlow: {
    title: 'Flow over lift',
    draw({ tables }, s): Figure | null {
      if (!tables['curve']) return null
      return {
        x: lift,
        y: { label: 'Corrected flow', kind: 'volumeFlow' },
        series: byConfig(tables['curve'], 'flow'),
        lines: [],
        bands: range(s),
        handles: handlesOf('liftRange', 'Range of lifts', s.liftRange),
      }
    },
  },
  gain: {
    title: 'Gain point by point',
    draw({ tables }, s): Figure | null {
      if (!tables['curve']) return null
      const [curves, configs] = [byConfig(tables['curve'], 'flow'), tables['configs']!.columns['config'] as string[]]
      const baseline = curves.find(c => c.name === (s.baseline ?? configs[0]))
      const others = curves.filter(c => c !== baseline)
      if (!baseline || others.length === 0) return null
      const gained = others.map(c => ({ ...c, ...gainOver(baseline, c) }))
      return {
        x: lift,
        y: { label: `Flow over that of ${baseline.name}`, kind: 'ratio' },
        series: gained,
        lines: [{ axis: 'y', value: 0, label: baseline.name }],
        bands: range(s),
      }
    },
  },
  coefficient: {
    title: 'Discharge coefficient',
    draw({ tables }, s): Figure | null {
      if (!tables['curve'] || s.valveDiameter === undefined) return null
      return {
        x: lift,
        y: { label: 'Discharge coefficient', kind: 'ratio' },
        series: byConfig(tables['curve'], 'dischargeCoefficient'),
        lines: [],
      }
    },
  },
  velocityMap: {
    title: 'Velocity map',
    draw({ traces }): Figure | null {
      const { x, y, velocity } = traces
      if (!x || !y || !velocity) return null
      return {
        x: { label: 'x', kind: 'length' },
        y: { label: 'y', kind: 'length' },
        series: [],
        lines: [],
        field: { label: 'Velocity', kind: 'velocity', x: [...x], y: [...y], value: [...velocity] },
      }
    },
  },
}

/** Share by which one curve lies above another at the lifts that both have. */
function gainOver(baseline: Series, c: Series): Pick<Series, 'x' | 'y'> {
  const both = baseline.x.flatMap((x, i) => {
    const k = c.x.findIndex(l => Math.abs(l! - x!) < 1e-9)
    return k < 0 ? [] : [[x!, c.y[k]! / baseline.y[i]! - 1] as const]
  })
  return { x: both.map(b => b[0]), y: both.map(b => b[1]) }
}
