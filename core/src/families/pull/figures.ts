import type { FigureOutline } from '../../family/contract'
import { thinned, zeroMarks, type Figure } from '../../method/figure'
import type { PullSettings } from './settings'

type Outlines = Record<string, FigureOutline<PullSettings>>

const force = { label: 'Force', kind: 'force' } as const

export const pullFigures: Outlines = {
  forceStretch: {
    title: 'Force over stretch',
    draw({ traces, results }, s): Figure | null {
      const { displacement, forceAtDisplacement: f } = traces
      if (!displacement || !f) return null
      const peak = results['peakForce']!.value!
      const at = f.indexOf(peak)
      return {
        x: { label: 'Stretch', kind: 'length' },
        y: force,
        series: [
          { name: 'Measured', style: 'measured', ...thinned(displacement, f) },
          ...(at < 0 ? [] : [{ name: 'Largest force', style: 'points' as const, x: [displacement[at]!], y: [peak] }]),
        ],
        lines:
          s.referenceStrength === undefined
            ? []
            : [{ axis: 'y', value: s.referenceStrength, label: 'Strength when new' }],
      }
    },
  },
  forceTime: {
    title: 'Force over time',
    draw({ traces, results }, s): Figure | null {
      const { t, force: f } = traces
      if (!t || !f) return null
      return {
        x: { label: 'Time', kind: 'time' },
        y: force,
        series: [{ name: 'Force', style: 'measured', ...thinned(t, f) }],
        lines: [{ axis: 'x', value: results['timeAtPeak']!.value!, label: 'largest force' }],
        ...zeroMarks(s.zeroStart),
      }
    },
  },
  callouts: {
    title: 'Called out',
    draw({ results }, s): Figure | null {
      if (!s.callouts) return null
      const { bound, value } = results['peakForce']!
      const ends = typeof bound === 'object' ? bound.interval : [value!]
      return {
        x: {
          label: s.callouts.some(c => c.t !== undefined) ? 'Time' : 'Call-out',
          kind: s.callouts.some(c => c.t !== undefined) ? 'time' : 'ratio',
        },
        y: force,
        series: [
          {
            name: 'Called out',
            style: 'points',
            x: s.callouts.map((c, i) => c.t ?? i + 1),
            y: s.callouts.map(c => c.force),
          },
        ],
        lines: ends.map((v, i) => ({ axis: 'y' as const, value: v, label: i === 0 ? 'held' : 'not reached' })),
      }
    },
  },
}
