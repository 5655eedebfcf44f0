import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, zeroMarks, type Figure, type Series } from '../../method/figure'
import { windowRange } from '../../signal/window'
import type { BurstSettings } from './settings'
import { statesOf } from './reduce'

export const burstFigures: Record<string, FigureOutline<BurstSettings>> = {
  pressureTime: {
    title: 'Pressure over time',
    draw({ traces, results }, s): Figure {
      const { t, pressure } = traces as { t: Float64Array; pressure: Float64Array }
      const most = results['burstPressure']!.value!
      const asked = s.ratedPressure * s.requiredFactor
      return {
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Pressure', kind: 'pressure' },
        series: [{ name: 'Pressure', style: 'measured', ...thinned(t, pressure) }],
        lines: [
          { axis: 'y', value: s.ratedPressure, label: 'rated' },
          ...(asked < 1.6 * most ? [{ axis: 'y' as const, value: asked, label: 'asked' }] : []),
        ],
        bands: [...s.holds.map(([from, to], i) => ({ from, to, label: `${i + 1}` })), ...zeroMarks(s.zeroStart).bands],
        handles: [
          ...s.holds.flatMap((h, i) => handlesOf(`holds.${i}`, `Hold ${i + 1}`, h)),
          ...zeroMarks(s.zeroStart).handles,
        ],
      }
    },
  },
  holdLeak: {
    title: 'Leak in the holds',
    draw({ traces, tables }, s): Figure | null {
      const { t, pressure, temperature } = traces as {
        t: Float64Array
        pressure: Float64Array
        temperature?: Float64Array
      }
      const rate = tables['holds']?.columns['leakPercentPerHour']
      if (!rate) return null
      const series = s.holds.flatMap(([from, to], i): Series[] => {
        const [a, b] = windowRange(t, [from, to])
        const since = t.slice(a, b).map(v => v - from)
        const state = statesOf(pressure, temperature, a, b, s.ambientPressure)
        const slope = -(rate[i] as number) / 100 / 3600
        const fitted = fittedStart(since, state, slope)
        return [
          {
            name: `Hold ${i + 1}`,
            style: 'measured',
            of: i,
            ...thinned(
              since,
              state.map(v => v / fitted - 1),
              300,
            ),
          },
          { name: `Fit ${i + 1}`, style: 'fit', of: i, x: [0, to - from], y: [0, slope * (to - from)] },
        ]
      })
      return {
        x: { label: 'Time in the hold', kind: 'time' },
        y: {
          label: temperature ? 'Change of pressure over temperature' : 'Change of absolute pressure',
          kind: 'ratio',
        },
        series,
        lines: [],
      }
    },
  },
}

/** Where a line of this relative slope begins that passes through the middle of what was read. */
function fittedStart(x: Float64Array, y: Float64Array, slope: number): number {
  const mean = (v: Float64Array) => v.reduce((a, b) => a + b, 0) / v.length
  return mean(y) / (1 + slope * mean(x))
}
