/** Frequencies from `fMin` in steps of 1/perOctave up to `fMax`, Hz. */
export const octaveSteps = (fMin: number, fMax: number, perOctave: number): Float64Array =>
  Float64Array.from(
    { length: Math.floor(perOctave * Math.log2(fMax / fMin) + 1e-9) + 1 },
    (_, i) => fMin * 2 ** (i / perOctave),
  )

/**
 * Shock response spectrum: largest absolute acceleration, positive or negative, of oscillators on the moving base,
 * from rest, over the record as it stands; ramp-invariant, so exact for a record that is straight between samples.
 *
 * @param a  base acceleration, even time base
 * @param interval  s
 * @param q  1/(2ζ), above 0.5
 * @returns  same unit as `a`, one value a frequency
 * @source Smallwood (1981); ISO 18431-4
 */
export function shockResponse(a: Float64Array, interval: number, frequencies: Float64Array, q: number): Float64Array {
  return frequencies.map(f => largestResponse(a, interval, f, 1 / (2 * q)))
}

function largestResponse(a: Float64Array, T: number, frequency: number, zeta: number): number {
  const wn = 2 * Math.PI * frequency
  const wd = wn * Math.sqrt(1 - zeta * zeta)
  const E = Math.exp(-zeta * wn * T)
  const [C, S] = [E * Math.cos(wd * T), E * Math.sin(wd * T)]
  const ramp = S / (wd * T)
  const [b0, b1, b2] = [1 - ramp, 2 * (ramp - C), E * E - ramp]
  const [a1, a2] = [2 * C, -E * E]
  let [x1, x2, y1, y2, largest] = [0, 0, 0, 0, 0]
  for (let i = 0; i < a.length; i++) {
    const x = a[i]!
    const y = b0 * x + b1 * x1 + b2 * x2 + a1 * y1 + a2 * y2
    x2 = x1
    x1 = x
    y2 = y1
    y1 = y
    if (y > largest) largest = y
    else if (-y > largest) largest = -y
  }
  return largest
}
