import type { FigureOutline } from '../../family/contract'
import { thinned, type Figure, type Series } from '../../method/figure'
import type { TransducerSettings } from './settings'

const frequency = { label: 'Frequency', kind: 'frequency' } as const
/** Shown around the resonances, of the series one, below and above. */
const AROUND = [0.75, 1.35] as const

export const transducerFigures: Record<string, FigureOutline<TransducerSettings>> = {
  impedance: {
    title: 'Impedance',
    draw({ traces, results }): Figure | null {
      const { frequency: f, R, X, modelSize } = traces
      if (!f || !R || !X) return null
      const size = R.map((r, i) => Math.hypot(r, X[i]!))
      const marks = (['seriesFrequency', 'parallelFrequency'] as const).flatMap(key =>
        results[key]?.value == null
          ? []
          : [
              {
                axis: 'x' as const,
                value: results[key].value,
                label: key === 'seriesFrequency' ? 'series' : 'parallel',
              },
            ],
      )
      return {
        x: { ...frequency, log: true },
        y: { label: 'Impedance', kind: 'resistance', log: true },
        series: [
          { name: 'Measured', style: 'measured', ...thinned(f, size) },
          ...(modelSize ? [{ name: 'Model', style: 'predicted' as const, ...thinned(f, modelSize) }] : []),
        ],
        lines: marks,
      }
    },
  },
  admittance: {
    title: 'Admittance',
    draw({ traces, results }): Figure | null {
      const { frequency: f, G, B, fittedG, fittedB } = traces
      if (!f || !G || !B) return null
      const fs = results['seriesFrequency']?.value
      if (fs == null) return null
      const [from, to] = [f.findIndex(v => v >= AROUND[0] * fs), f.findLastIndex(v => v <= AROUND[1] * fs) + 1]
      const part = (y: Float64Array) => thinned(f.subarray(from, to), y.subarray(from, to))
      return {
        x: frequency,
        y: { label: 'Admittance', kind: 'conductance' },
        lines: [{ axis: 'x', value: fs, label: 'series' }],
        series: [
          { name: 'Conductance', style: 'measured', ...part(G) },
          { name: 'Susceptance', style: 'measured', of: 1, ...part(B) },
          ...(fittedG && fittedB
            ? [
                { name: 'Circuit, conductance', style: 'fit' as const, ...part(fittedG) },
                { name: 'Circuit, susceptance', style: 'fit' as const, of: 1, ...part(fittedB) },
              ]
            : []),
        ],
      }
    },
  },
  circle: {
    title: 'Circle of admittance',
    draw({ traces }): Figure | null {
      const { G, B, fittedG, fittedB } = traces
      if (!G || !B) return null
      const circle = (name: string, style: Series['style'], g: Float64Array, b: Float64Array): Series => ({
        name,
        style,
        x: Array.from(g),
        y: Array.from(b),
      })
      return {
        x: { label: 'Conductance', kind: 'conductance' },
        y: { label: 'Susceptance', kind: 'conductance' },
        series: [
          circle('Measured', 'measured', G, B),
          ...(fittedG && fittedB ? [circle('Circuit', 'fit', fittedG, fittedB)] : []),
        ],
        lines: [],
      }
    },
  },
  response: {
    title: 'Response over frequency',
    draw({ traces, results }, s): Figure | null {
      const { responseFrequency: f, response } = traces
      if (!f || !response) return null
      const top = results[s.response === 'transmit' ? 'peakTransmitResponse' : 'peakReceiveSensitivity']!.value!
      return {
        x: frequency,
        y: {
          label: s.response === 'transmit' ? 'Transmitting response' : 'Receiving sensitivity',
          kind: 'level',
        },
        series: [{ name: 'Measured', style: 'measured', ...thinned(f, response) }],
        lines: [3, 6].map(down => ({ axis: 'y', value: top - down, label: `${down} dB down` })),
      }
    },
  },
  beam: {
    title: 'Beam',
    draw({ traces, results }): Figure | null {
      const { angle, level, width } = traces
      if (!angle || !level) return null
      const peak = results['peakLevel']!.value!
      const down = level.map(v => v - peak)
      return {
        x: { label: 'Angle', kind: 'angle' },
        y: { label: 'Level below the peak', kind: 'level' },
        polar: true,
        lines: [],
        series: [
          { name: 'Measured', style: 'measured', x: Array.from(angle), y: Array.from(down) },
          ...(width ? [{ name: '3 dB down', style: 'points' as const, x: Array.from(width), y: [-3, -3] }] : []),
        ],
      }
    },
  },
  levels: {
    title: 'Level over angle',
    draw({ traces, results }): Figure | null {
      const { angle, level, width } = traces
      if (!angle || !level) return null
      const peak = results['peakLevel']!.value!
      const lobe = results['maxSidelobe']?.value
      return {
        x: { label: 'Angle', kind: 'angle' },
        y: { label: 'Level below the peak', kind: 'level' },
        series: [
          {
            name: 'Measured',
            style: 'measured',
            ...thinned(
              angle,
              level.map(v => v - peak),
            ),
          },
        ],
        lines: [
          { axis: 'y', value: -3, label: '3 dB down' },
          ...(lobe == null ? [] : [{ axis: 'y' as const, value: lobe, label: 'side lobe' }]),
          ...(width ? Array.from(width, v => ({ axis: 'x' as const, value: v, label: '' })) : []),
        ],
      }
    },
  },
}
