import type { FigureOutline } from '../../family/contract'
import { thinned, zeroMarks, type Figure, type Series } from '../../method/figure'
import type { TorqueSettings } from './settings'

const torque = { label: 'Torque', kind: 'torque' } as const

export const torqueFigures: Record<string, FigureOutline<TorqueSettings>> = {
  torqueTwist: {
    title: 'Torque over twist',
    draw({ traces, results }, s): Figure {
      const { twist, torque: y, line } = traces as { twist: Float64Array; torque: Float64Array; line: Float64Array }
      const [slope, intercept] = [line[0]!, line[1]!]
      const [peak, yields] = [results['ultimateTorque']!.value!, results['yieldTorque']!.value]
      const to = (level: number, offset: number): Pick<Series, 'x' | 'y'> => ({
        x: [-intercept / slope + offset, (level - intercept) / slope + offset],
        y: [0, level],
      })
      return {
        x: { label: 'Twist', kind: 'angle' },
        y: torque,
        series: [
          { name: 'Measured', style: 'measured', ...thinned(twist, y) },
          { name: 'Elastic line', style: 'fit', ...to(0.9 * peak, 0) },
          { name: 'Moved by the offset', style: 'fit', ...to(1.02 * (yields ?? 0.9 * peak), s.offset) },
          ...(yields == null
            ? []
            : [{ name: 'Yield', style: 'points' as const, x: [(yields - intercept) / slope + s.offset], y: [yields] }]),
          { name: 'Largest', style: 'points', x: [results['twistAtPeak']!.value!], y: [peak] },
        ],
        lines: [{ axis: 'y', value: s.requiredTorque, label: 'required' }],
      }
    },
  },
  torqueTime: {
    title: 'Torque over time',
    draw({ traces }, s): Figure | null {
      const { t, torque: y } = traces
      if (!t?.length || !y) return null
      return {
        x: { label: 'Time', kind: 'time' },
        y: torque,
        series: [{ name: 'Torque', style: 'measured', ...thinned(t, y) }],
        lines: [],
        ...zeroMarks(s.zeroStart),
      }
    },
  },
}
