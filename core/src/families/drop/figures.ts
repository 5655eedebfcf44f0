import type { FigureOutline } from '../../family/contract'
import { thinned, zeroMarks, type Figure } from '../../method/figure'
import type { Reduction } from '../../method/reduction'
import { cumulativeIntegral } from '../../signal/rising'
import { octaveSteps, shockResponse } from '../../signal/shockResponse'
import { windowRange } from '../../signal/window'
import type { DropSettings } from './settings'

/** Shown before and after the pulse, of its duration. */
const AROUND = 1.5
const SPECTRUM = { from: 2, ofRate: 0.1, most: 2000, perOctave: 12, q: 10, periods: 4 }

const time = { label: 'Time', kind: 'time' } as const
const value = (r: Pick<Reduction, 'results'>, key: string) => r.results[key]!.value!

/** The record around its pulse; velocity and way from the impact on. */
function around({ traces, results }: Pick<Reduction, 'traces' | 'results'>, share = AROUND) {
  const { t, acceleration } = traces as { t: Float64Array; acceleration: Float64Array }
  const [from, to] = ['pulseStart', 'pulseEnd'].map(k => results[k]!.value!) as [number, number]
  const [a, b] = windowRange(t, [from - share * (to - from), to + share * (to - from)])
  return { t: t.subarray(a, b), acceleration: acceleration.subarray(a, b), from, to }
}

function inPulse(r: Pick<Reduction, 'traces' | 'results'>, impact: number) {
  const { t, acceleration } = around(r, 0)
  const velocity = cumulativeIntegral(t, acceleration).map(v => impact - v)
  return { t, acceleration, velocity, way: cumulativeIntegral(t, velocity) }
}

export const dropFigures: Record<string, FigureOutline<DropSettings>> = {
  pulse: {
    title: 'Pulse',
    draw(r, s, view): Figure {
      const { t, acceleration, from, to } = around(r)
      const [a, b] = windowRange(r.traces['t']!, [t[0]!, t.at(-1)!])
      const others = Object.keys(r.traces).filter(role => role !== 't' && role !== 'acceleration')
      const label = (role: string) => view?.channels.find(c => c.role === role)?.label ?? role
      return {
        x: time,
        y: { label: `Deceleration, class ${s.cfc}`, kind: 'acceleration' },
        series: [
          {
            name: label('acceleration') === 'acceleration' ? 'Deceleration' : label('acceleration'),
            style: 'measured',
            ...thinned(t, acceleration),
          },
          ...others.map((role, i) => ({
            name: label(role),
            style: 'measured' as const,
            of: i + 1,
            ...thinned(t, r.traces[role]!.subarray(a, b)),
          })),
          { name: 'Plateau', style: 'fit', x: [from, to], y: [value(r, 'plateau'), value(r, 'plateau')] },
        ],
        lines: [
          { axis: 'x', value: from, label: 'begins' },
          { axis: 'x', value: to, label: 'ends' },
          ...(s.trigger === undefined ? [] : [{ axis: 'y' as const, value: s.trigger, label: 'trigger' }]),
        ],
      }
    },
  },
  velocity: {
    title: 'Velocity',
    draw(r, s): Figure {
      const { t, velocity } = inPulse(r, s.impactVelocity)
      return {
        x: time,
        y: { label: 'Velocity downward', kind: 'velocity' },
        series: [{ name: 'Integrated from the impact', style: 'measured', ...thinned(t, velocity) }],
        lines: [
          { axis: 'y', value: s.impactVelocity, label: 'impact' },
          { axis: 'y', value: 0, label: '' },
        ],
      }
    },
  },
  stroke: {
    title: 'Deceleration over stroke',
    draw(r, s): Figure {
      const { acceleration, way } = inPulse(r, s.impactVelocity)
      return {
        x: { label: 'Way from the impact', kind: 'length' },
        y: { label: 'Deceleration', kind: 'acceleration' },
        series: [{ name: 'Deceleration', style: 'measured', ...thinned(way, acceleration) }],
        lines: [{ axis: 'x', value: value(r, 'displacement'), label: 'stroke' }],
      }
    },
  },
  shockResponse: {
    title: 'Shock response',
    draw(r): Figure | null {
      const { t, acceleration } = r.traces as { t: Float64Array; acceleration: Float64Array }
      const interval = (t.at(-1)! - t[0]!) / (t.length - 1)
      const most = Math.min(SPECTRUM.most, SPECTRUM.ofRate / interval)
      if (most <= SPECTRUM.from) return null
      // What rings on after the pulse is over within some periods of the lowest oscillator.
      const [a, b] = windowRange(t, [
        value(r, 'pulseStart') - 1 / SPECTRUM.from,
        value(r, 'pulseEnd') + SPECTRUM.periods / SPECTRUM.from,
      ])
      const frequencies = octaveSteps(SPECTRUM.from, most, SPECTRUM.perOctave)
      const response = shockResponse(acceleration.subarray(a, b), interval, frequencies, SPECTRUM.q)
      return {
        x: { label: 'Frequency of the oscillator', kind: 'frequency' },
        y: { label: 'Largest response, Q 10', kind: 'acceleration' },
        series: [{ name: 'Largest response', style: 'measured', x: [...frequencies], y: [...response] }],
        lines: [{ axis: 'y', value: value(r, 'peak'), label: 'peak' }],
      }
    },
  },
  record: {
    title: 'Whole record',
    draw({ traces }, s): Figure {
      const { t, acceleration } = traces as { t: Float64Array; acceleration: Float64Array }
      return {
        x: time,
        y: { label: `Deceleration, class ${s.cfc}`, kind: 'acceleration' },
        series: [{ name: 'Deceleration', style: 'measured', ...thinned(t, acceleration) }],
        lines: [],
        ...zeroMarks(s.zeroStart),
      }
    },
  },
}
