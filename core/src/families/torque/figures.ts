import type { FigureOutline } from '../../family/contract'
import { thinned, zeroMarks, type Figure, type Series } from '../../method/figure'
import type { TorqueSettings } from './settings'

const torque = { label: 'Torque', kind: 'torque' } as const

export const torqueFigures: Record<string, FigureOutline<TorqueSettings>> = {
  torqueTwist: {
    title: 'Torque over twist',
    draw({ traces, results }, s): Figure {
      const { twist, torque: y } = traces as { twist: Float64Array; torque: Float64Array }
      const [peak, yields] = [results['ultimateTorque']!.value!, results['yieldTorque']!.value]
      const place = results['twistAtPeak']!.value
      return {
        x: { label: 'Twist', kind: 'angle' },
        y: torque,
        series: [
          { name: 'Measured', style: 'measured', ...thinned(twist, y) },
          ...(traces['line'] ? elastic(traces['line'], s.offset, peak, yields) : []),
          ...(place === null ? [] : [{ name: 'Largest', style: 'points' as const, x: [place], y: [peak] }]),
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

/** The line of the stiffness, the same moved by the offset, and where the curve meets that. */
function elastic([slope, intercept]: Float64Array, offset: number, peak: number, yields: number | null): Series[] {
  const to = (level: number, moved: number): Pick<Series, 'x' | 'y'> => ({
    x: [-intercept! / slope! + moved, (level - intercept!) / slope! + moved],
    y: [0, level],
  })
  return [
    { name: 'Elastic line', style: 'fit', ...to(0.9 * peak, 0) },
    { name: 'Moved by the offset', style: 'fit', ...to(1.02 * (yields ?? 0.9 * peak), offset) },
    ...(yields === null
      ? []
      : [{ name: 'Yield', style: 'points' as const, x: [(yields - intercept!) / slope! + offset], y: [yields] }]),
  ]
}
