import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, zeroMarks, type Figure, type Series } from '../../method/figure'
import type { BarSettings } from './settings'

const time = { label: 'Time', kind: 'time' } as const
const since = { label: 'Time from the wave’s arrival', kind: 'time' } as const
const stress = { label: 'Stress', kind: 'pressure' } as const

export const barFigures: Record<string, FigureOutline<BarSettings>> = {
  stressStrain: {
    title: 'Stress over strain',
    draw({ traces, results }, s): Figure {
      const pair = (name: string, by: 'One' | 'Three', of: number): Series => ({
        name,
        style: 'measured',
        of,
        ...thinned(traces[`strain${by}`]!, traces[`stress${by}`]!),
      })
      return {
        x: { label: 'Strain', kind: 'strain' },
        y: stress,
        series: [
          pair('One wave', 'One', 0),
          pair('Three waves', 'Three', 1),
          {
            name: `Peak, ${s.school}`,
            style: 'points',
            x: [results['strainAtPeak']!.value!],
            y: [results['peakStress']!.value!],
          },
        ],
        lines: [],
      }
    },
  },
  waves: {
    title: 'Waves',
    draw({ traces }, s): Figure {
      const { t, incident, transmitted } = traces as {
        t: Float64Array
        incident: Float64Array
        transmitted: Float64Array
      }
      const windows = [
        ['incidentWindow', 'Incident', s.incidentWindow],
        ['reflectedWindow', 'Reflected', s.reflectedWindow],
        ['transmittedWindow', 'Transmitted', s.transmittedWindow],
      ] as const
      return {
        x: time,
        y: { label: 'Strain of the bars', kind: 'strain' },
        series: [
          { name: 'Incident bar', style: 'measured', ...thinned(t, incident) },
          { name: 'Transmitted bar', style: 'measured', of: 1, ...thinned(t, transmitted) },
        ],
        lines: [],
        bands: [
          ...windows.map(([, label, w]) => ({ from: w[0], to: w[1], label: label.toLowerCase() })),
          ...zeroMarks(s.zeroStart).bands,
        ],
        handles: [
          ...windows.flatMap(([path, label, w]) => handlesOf(path, `${label} wave`, w)),
          ...zeroMarks(s.zeroStart).handles,
        ],
      }
    },
  },
  faces: {
    title: 'Forces on both faces',
    draw({ traces }): Figure {
      const { time: x, front, back } = traces as { time: Float64Array; front: Float64Array; back: Float64Array }
      return {
        x: since,
        y: { label: 'Force', kind: 'force' },
        series: [
          { name: 'Incident face', style: 'measured', ...thinned(x, front) },
          { name: 'Transmitted face', style: 'measured', of: 1, ...thinned(x, back) },
        ],
        lines: [],
      }
    },
  },
  rate: {
    title: 'Strain rate',
    draw({ traces, results }): Figure {
      const x = traces['time']!
      return {
        x: since,
        y: { label: 'Strain rate', kind: 'sweepRate' },
        series: [
          { name: 'One wave', style: 'measured', ...thinned(x, traces['rateOne']!) },
          { name: 'Three waves', style: 'measured', of: 1, ...thinned(x, traces['rateThree']!) },
        ],
        lines: [{ axis: 'y', value: results['meanRate']!.value!, label: 'mean' }],
      }
    },
  },
  carried: {
    title: 'Waves at the specimen',
    draw({ traces }): Figure {
      const x = traces['time']!
      const wave = (name: string, key: string, of: number): Series => ({
        name,
        style: 'measured',
        of,
        ...thinned(x, traces[key]!),
      })
      return {
        x: since,
        y: { label: 'Strain of the bars', kind: 'strain' },
        series: [
          wave('Incident', 'incidentWave', 0),
          wave('Reflected', 'reflectedWave', 1),
          wave('Transmitted', 'transmittedWave', 2),
        ],
        lines: [{ axis: 'y', value: 0, label: '' }],
      }
    },
  },
}
