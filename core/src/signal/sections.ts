/** A second-order section, a0 = 1: y = (b0 + b1 z⁻¹ + b2 z⁻²) / (1 + a1 z⁻¹ + a2 z⁻²) · x. */
export interface Section {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

/**
 * Zero-phase filtering: forward, then backward, over the record extended by odd reflection at both ends and begun in
 * each direction in the steady state of the first sample. The extension is 3·(2·sections + 1) samples, less the
 * trailing zero coefficients.
 *
 * @param x  even time base, no gaps; longer than the extension
 * @returns  a new array of the same length
 * @source Gustafsson (1996) for the effect of initial states; the customary odd extension
 */
export function filterZeroPhase(sections: Section[], x: Float64Array): Float64Array {
  const pad = paddingOf(sections)
  const n = x.length
  const y = new Float64Array(n + 2 * pad)
  y.set(x, pad)
  for (let i = 1; i <= pad; i++) {
    y[pad - i] = 2 * x[0]! - x[i]!
    y[pad + n - 1 + i] = 2 * x[n - 1]! - x[n - 1 - i]!
  }
  runInPlace(sections, y)
  y.reverse()
  runInPlace(sections, y)
  y.reverse()
  return y.subarray(pad, pad + n)
}

/** Samples by which each end is extended; a record must be longer than that. */
export function paddingOf(sections: Section[]): number {
  const without = (key: 'b2' | 'a2') => sections.filter(s => s[key] === 0).length
  return 3 * (2 * sections.length + 1 - Math.min(without('b2'), without('a2')))
}

/** Runs the cascade over an array, two sections fused in one pass, from the steady state of the first sample. */
function runInPlace(sections: Section[], y: Float64Array): void {
  let level = y[0]!
  for (let k = 0; k < sections.length; k += 2) {
    const [p, q] = [sections[k]!, sections[k + 1]]
    if (q) level = runPair(p, q, y, level)
    else level = runOne(p, y, level)
  }
}

const steadyGain = (s: Section): number => (s.b0 + s.b1 + s.b2) / (1 + s.a1 + s.a2)

/** Transposed direct form II; returns the steady level that the next section begins from. */
function runOne({ b0, b1, b2, a1, a2 }: Section, y: Float64Array, level: number): number {
  const gain = steadyGain({ b0, b1, b2, a1, a2 })
  let s1 = (gain - b0) * level
  let s2 = (b2 - a2 * gain) * level
  for (let i = 0; i < y.length; i++) {
    const x = y[i]!
    const v = b0 * x + s1
    s1 = b1 * x - a1 * v + s2
    s2 = b2 * x - a2 * v
    y[i] = v
  }
  return gain * level
}

function runPair(p: Section, q: Section, y: Float64Array, level: number): number {
  const [g, h] = [steadyGain(p), steadyGain(q)]
  const { b0, b1, b2, a1, a2 } = p
  const { b0: d0, b1: d1, b2: d2, a1: c1, a2: c2 } = q
  let s1 = (g - b0) * level
  let s2 = (b2 - a2 * g) * level
  let r1 = (h - d0) * g * level
  let r2 = (d2 - c2 * h) * g * level
  for (let i = 0; i < y.length; i++) {
    const x = y[i]!
    const v = b0 * x + s1
    s1 = b1 * x - a1 * v + s2
    s2 = b2 * x - a2 * v
    const w = d0 * v + r1
    r1 = d1 * v - c1 * w + r2
    r2 = d2 * v - c2 * w
    y[i] = w
  }
  return h * g * level
}
