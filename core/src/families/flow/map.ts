import { exact } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Reduction } from '../../method/reduction'
import { indexOfMax } from '../../signal/rising'
import { meanSd } from '../../statistics/mean'
import { densityOf } from './air'

/**
 * Velocities of a probe map: their mean, how even they are, and where the largest is. A negative dynamic pressure is a
 * flow back.
 *
 * @param table  x, y [m], q [Pa], temperature [K], baro [Pa, both optional]
 * @source methods.md, “flow”
 */
export function reduceMap({ channels }: Table): Reduction {
  const [x, y, q] = [channels['x']!, channels['y']!, channels['q']!]
  const velocity = q.map((v, i) => Math.sign(v) * Math.sqrt((2 * Math.abs(v)) / densityOf(channels, i)))
  const { mean } = meanSd(velocity)
  const peak = indexOfMax(velocity)
  const spread = velocity.reduce((s, v) => s + Math.abs(v - mean), 0)
  return {
    results: {
      meanVelocity: exact(mean, 'm/s'),
      peakVelocity: exact(velocity[peak]!, 'm/s'),
      uniformity: exact(1 - spread / (2 * velocity.length * mean), '1'),
      peakToMean: exact(velocity[peak]! / mean, '1'),
      peakX: exact(x[peak]!, 'm'),
      peakY: exact(y[peak]!, 'm'),
    },
    tables: {},
    traces: { x, y, velocity },
    warnings: q.some(v => v < 0) ? [{ code: 'reverse-flow', message: 'At some places the flow runs back.' }] : [],
  }
}
