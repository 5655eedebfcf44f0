import { densityAt, type Breakpoint } from '../../calc/planning/vibration-spec'

/** Specified density at each frequency, straight between breakpoints in logarithms; nothing outside. @returns m²/s³ */
export const bandOf = (frequency: Float64Array, specification: readonly Breakpoint[]): Float64Array =>
  frequency.map(f => densityAt(specification, f) ?? NaN)

/** Share of the bins of a band whose density is off the specification by more than a tolerance in dB. */
export function withinTolerance(
  frequency: Float64Array,
  density: Float64Array,
  specification: readonly Breakpoint[],
  tolerance: number,
  from: number,
  to: number,
): { share: number } {
  const wanted = bandOf(frequency, specification)
  let [n, outside] = [0, 0]
  for (let k = from; k < to; k++) {
    if (!(wanted[k]! > 0)) continue
    n++
    if (Math.abs(10 * Math.log10(density[k]! / wanted[k]!)) > tolerance) outside++
  }
  return { share: n === 0 ? 0 : outside / n }
}
