import type { FigureOutline } from '../../family/contract'
import { thinned, zeroMarks, type Figure } from '../../method/figure'
import type { CrushSettings } from './settings'

const displacement = { label: 'Displacement from contact', kind: 'length' } as const

export const crushFigures: Record<string, FigureOutline<CrushSettings>> = {
  forceDisplacement: {
    title: 'Force over displacement',
    draw({ traces, results }): Figure {
      const { x, force } = traces as { x: Float64Array; force: Float64Array }
      const [peak, mean, end] = ['initialPeak', 'meanForce', 'densification'].map(k => results[k]!.value!) as [
        number,
        number,
        number,
      ]
      const at = force.indexOf(peak)
      return {
        x: displacement,
        y: { label: 'Force', kind: 'force' },
        series: [
          { name: 'Force', style: 'measured', ...thinned(x, force) },
          { name: 'Mean crush force', style: 'fit', x: [x[at]!, end], y: [mean, mean] },
          { name: 'Initial peak', style: 'points', x: [x[at]!], y: [peak] },
        ],
        lines: [
          {
            axis: 'x',
            value: end,
            label: results['densification']!.bound === 'exact' ? 'densification' : 'end of the test',
          },
        ],
      }
    },
  },
  efficiency: {
    title: 'Energy so far over the force',
    draw({ traces, results }): Figure {
      const { x, efficiency } = traces as { x: Float64Array; efficiency: Float64Array }
      return {
        x: displacement,
        y: { label: 'Energy over force', kind: 'length' },
        series: [{ name: 'Energy over force', style: 'measured', ...thinned(x, efficiency) }],
        lines: [{ axis: 'x', value: results['densification']!.value!, label: 'largest: used up' }],
      }
    },
  },
  forceTime: {
    title: 'Force over time',
    draw({ traces }, s): Figure | null {
      const { t, whole } = traces
      if (!t?.length || !whole) return null
      return {
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Force', kind: 'force' },
        series: [{ name: 'Force', style: 'measured', ...thinned(t, whole) }],
        lines: [],
        ...zeroMarks(s.zeroStart),
      }
    },
  },
}
