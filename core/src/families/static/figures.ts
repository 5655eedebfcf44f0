import type { Figure, Series } from '../../method/figure'
import type { Reduction } from '../../method/reduction'
import type { StaticSettings } from './settings'

const MOST_POINTS = 1500

/** Load over deflection: the record up to its end, the means of the steps, the line of the stiffness fit. */
export function loadDeflectionFigure({ traces, tables }: Pick<Reduction, 'traces' | 'tables'>, s: StaticSettings): Figure {
  const { load, deflection } = traces as { load: Float64Array; deflection: Float64Array }
  const stride = Math.max(1, Math.ceil(load.length / MOST_POINTS))
  const thin = (y: Float64Array) => Array.from({ length: Math.ceil(y.length / stride) }, (_, i) => y[i * stride]!)
  const steps = tables['steps']!.columns
  const measured: Series = { name: 'Measured', style: 'measured', x: thin(deflection), y: thin(load) }
  const means: Series = { name: 'Step means', style: 'points', x: steps['deflectionMean'] as number[], y: steps['loadMean'] as number[] }
  const { stiffnessLine: line } = traces
  const fit: Series[] = line ? [{ name: 'Stiffness fit', style: 'fit', x: [line[0]!, line[1]!], y: [line[2]!, line[3]!] }] : []
  return {
    x: { label: 'Deflection', kind: 'length' },
    y: { label: 'Load', kind: 'force' },
    series: [measured, ...fit, means],
    lines: [{ axis: 'y', value: s.designLoad, label: 'Design load' }],
  }
}
