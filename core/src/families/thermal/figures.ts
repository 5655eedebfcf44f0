import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, type Figure, type Series } from '../../method/figure'
import type { Reduction } from '../../method/reduction'
import type { ThermalSettings } from './settings'

/** The approach is drawn on so many time constants, and the derating this far around the ambient, K. */
const [AHEAD, AROUND] = [4, 40]

export const thermalFigures: Record<string, FigureOutline<ThermalSettings>> = {
  approach: {
    title: 'Approach',
    draw({ traces, results }, s): Figure {
      const { t, temperature } = traces as { t: Float64Array; temperature: Float64Array }
      const steady = results['steadyTemperature']!.value
      return {
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Temperature', kind: 'temperature' },
        series: [
          { name: 'Measured', style: 'measured', ...thinned(t, temperature) },
          ...(steady === null ? [] : approach(results, s, t.at(-1)!)),
        ],
        lines: [
          { axis: 'y', value: s.limit, label: 'limit' },
          { axis: 'y', value: s.ambient, label: 'ambient' },
        ],
        bands: [{ from: s.window[0], to: s.window[1], label: 'approach' }],
        handles: handlesOf('window', 'Approach', s.window),
      }
    },
  },
  derating: {
    title: 'Derating with the ambient',
    draw({ results }, s): Figure | null {
      const [power, steady] = [results['power']?.value, results['steadyTemperature']?.value]
      if (power == null || steady == null || !(steady > s.ambient)) return null
      const allowed = (ambient: number) => Math.max(0, (power * (s.limit - ambient)) / (steady - s.ambient))
      const x = Array.from({ length: 41 }, (_, i) => s.ambient - AROUND + (i / 40) * (s.limit - s.ambient + AROUND))
      return {
        x: { label: 'Ambient', kind: 'temperature' },
        y: { label: 'Allowed power', kind: 'power' },
        series: [
          { name: 'Allowed', style: 'fit', x, y: x.map(allowed) },
          { name: 'In this test', style: 'points', x: [s.ambient], y: [power] },
        ],
        lines: [{ axis: 'x', value: s.ambient, label: 'ambient of the test' }],
      }
    },
  },
  power: {
    title: 'Power',
    draw({ traces }, s): Figure | null {
      const { t, power } = traces
      return t && power
        ? {
            x: { label: 'Time', kind: 'time' },
            y: { label: 'Power', kind: 'power' },
            series: [{ name: 'Power', style: 'measured', ...thinned(t, power) }],
            lines: [],
            bands: [{ from: s.window[0], to: s.window[1], label: 'approach' }],
          }
        : null
    },
  },
}

/** The fitted curve drawn on, and its end with its uncertainty. */
function approach(results: Reduction['results'], s: ThermalSettings, last: number): Series[] {
  const [steady, start, tau] = ['steadyTemperature', 'startTemperature', 'timeConstant'].map(
    k => results[k]!.value!,
  ) as [number, number, number]
  const U = (results['steadyTemperature']!.u ?? 0) * (results['steadyTemperature']!.k ?? 2)
  const until = Math.max(last, s.window[0] + AHEAD * Math.min(tau, 2 * (s.window[1] - s.window[0])))
  const x = Array.from({ length: 80 }, (_, i) => s.window[0] + ((until - s.window[0]) * i) / 79)
  const y = x.map(v => steady - (steady - start) * Math.exp(-(v - s.window[0]) / tau))
  const level = (name: string, at: number): Series => ({ name, style: 'fit', x: [x[0]!, until], y: [at, at] })
  return [
    { name: 'Approach', style: 'predicted', x, y },
    ...(U > 0 ? [level('Steady + U', steady + U), level('Steady − U', steady - U)] : []),
  ]
}
