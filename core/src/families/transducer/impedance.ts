import { median } from '../../statistics/quantile'
import { admittance, type Circuit } from './circuit'

/** Scatter of an impedance's rows: of the logarithm of its size, and of its phase, rad. */
export interface ImpedanceNoise {
  magnitude: number
  phase: number
}

/** Median of the size of a normal deviate. */
const MAD_OF_NORMAL = 0.67449
/** Rows that are computed, not read, scatter by their last digit. */
const LEAST_NOISE = 1e-6

const turned = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI))

/**
 * What rows scatter by beside a cubic through their two neighbours on either side.
 *
 * @param frequency  rising, at least five rows
 * @param logSize, phase  of the impedance; ln Ω, rad
 * @source Lagrange's weights; the median absolute deviation for a normal scatter
 */
export function impedanceNoise(frequency: Float64Array, logSize: Float64Array, phase: Float64Array): ImpedanceNoise {
  const [size, angle]: [number[], number[]] = [[], []]
  for (let i = 2; i < frequency.length - 2; i++) {
    const about = [i - 2, i - 1, i + 1, i + 2]
    const weights = about.map(k =>
      about.reduce(
        (w, j) => (j === k ? w : (w * (frequency[i]! - frequency[j]!)) / (frequency[k]! - frequency[j]!)),
        1,
      ),
    )
    const widened = Math.sqrt(1 + weights.reduce((s, w) => s + w * w, 0))
    const off = (y: (k: number) => number) => about.reduce((d, k, n) => d - weights[n]! * (y(k) - y(i)), 0) / widened
    size.push(Math.abs(off(k => logSize[k]!)))
    angle.push(Math.abs(off(k => phase[i]! + turned(phase[k]! - phase[i]!))))
  }
  const sigma = (d: number[]) => Math.max(LEAST_NOISE, median(d) / MAD_OF_NORMAL)
  return { magnitude: sigma(size), phase: sigma(angle) }
}

/** Rows less a circuit, in their scatter: logarithms of the size, then phases. */
export function impedanceResiduals(
  circuit: Circuit,
  frequency: Float64Array,
  logSize: Float64Array,
  phase: Float64Array,
  noise: ImpedanceNoise,
): Float64Array {
  const n = frequency.length
  const r = new Float64Array(2 * n)
  for (let i = 0; i < n; i++) {
    const { re, im } = admittance(circuit, 2 * Math.PI * frequency[i]!)
    r[i] = (logSize[i]! + Math.log(Math.hypot(re, im))) / noise.magnitude
    r[n + i] = turned(phase[i]! + Math.atan2(im, re)) / noise.phase
  }
  return r
}
