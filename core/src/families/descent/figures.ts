import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, type Figure, type Handle } from '../../method/figure'
import { STANDARD_GRAVITY } from '../../quantity/units'
import { fitLine } from '../../statistics/line'
import { windowRange } from '../../signal/window'
import type { DescentSettings } from './settings'

const time = { label: 'Time', kind: 'time' } as const

const handles = (s: DescentSettings): Handle[] => [
  ...handlesOf('steadyWindow', 'Steady descent', s.steadyWindow),
  ...(s.stretchTime === undefined ? [] : [{ path: 'stretchTime', label: 'Lines stretched', x: s.stretchTime }]),
  ...(s.fullTime === undefined ? [] : [{ path: 'fullTime', label: 'Canopy full', x: s.fullTime }]),
]
const bands = (s: DescentSettings) =>
  s.phases
    ? s.phases.map(p => ({ from: p.window[0], to: p.window[1], label: p.name }))
    : [{ from: s.steadyWindow[0], to: s.steadyWindow[1], label: 'steady' }]

/** Pieces of the record over which a rate is taken for the eye. */
const PIECES = 120

export const descentFigures: Record<string, FigureOutline<DescentSettings>> = {
  altitude: {
    title: 'Altitude',
    draw({ traces }, s): Figure {
      const { t, altitude } = traces as { t: Float64Array; altitude: Float64Array }
      const [a, b] = windowRange(t, s.steadyWindow)
      const { slope, intercept } = fitLine(t.subarray(a, b), altitude.subarray(a, b))
      return {
        x: time,
        y: { label: 'Altitude', kind: 'length' },
        series: [
          { name: 'Altitude', style: 'measured', ...thinned(t, altitude) },
          {
            name: 'Steady descent',
            style: 'fit',
            x: [...s.steadyWindow],
            y: s.steadyWindow.map(v => intercept + slope * v),
          },
        ],
        lines: [],
        bands: bands(s),
        handles: handles(s),
      }
    },
  },
  rate: {
    title: 'Rate of descent',
    draw({ traces, results }, s): Figure {
      const { t, altitude } = traces as { t: Float64Array; altitude: Float64Array }
      const size = Math.max(3, Math.floor(t.length / PIECES))
      const pieces = Array.from(
        { length: Math.floor(t.length / size) },
        (_, i) => [i * size, Math.min(t.length, (i + 1) * size)] as const,
      )
      return {
        x: time,
        y: { label: 'Rate of descent', kind: 'velocity' },
        series: [
          {
            name: 'Rate of descent',
            style: 'measured',
            x: pieces.map(([a, b]) => (t[a]! + t[b - 1]!) / 2),
            y: pieces.map(([a, b]) => -fitLine(t.subarray(a, b), altitude.subarray(a, b)).slope),
          },
        ],
        lines: [{ axis: 'y', value: results['descentRate']!.value!, label: 'steady' }],
        bands: bands(s),
        handles: handles(s),
      }
    },
  },
  riserForce: {
    title: 'Riser force',
    draw({ traces }, s): Figure | null {
      const { riserTime: t, riserForce } = traces
      if (!t || !riserForce) return null
      return {
        x: time,
        y: { label: 'Riser force', kind: 'force' },
        series: [{ name: 'Riser force', style: 'measured', ...thinned(t, riserForce) }],
        lines: [{ axis: 'y', value: s.mass * STANDARD_GRAVITY, label: 'weight' }],
        bands: bands(s),
        handles: handles(s),
      }
    },
  },
  landingArea: {
    title: 'Landing',
    draw(_, s): Figure | null {
      if (!s.landing) return null
      const [east, north] = s.landing
      return {
        x: { label: 'East of the exit', kind: 'length' },
        y: { label: 'North of the exit', kind: 'length' },
        series: [
          { name: 'Landed', style: 'points', x: [east], y: [north] },
          { name: 'Exit', style: 'points', x: [0], y: [0] },
        ],
        lines: [],
        bands: [],
        handles: [],
      }
    },
  },
}
