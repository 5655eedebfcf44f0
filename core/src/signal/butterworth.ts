import { HypometError } from '../error'
import type { Section } from './sections'

export type ButterworthKind = 'low' | 'high' | 'band'

export interface ButterworthDesign {
  kind: ButterworthKind
  /** Of the prototype: a band has twice as many poles. */
  order: number
  /** Hz; two for a band. */
  cutoff: number | readonly [number, number]
  /** Hz */
  sampleRate: number
}

/**
 * Digital Butterworth filter as second-order sections: analogue prototype, frequencies prewarped, bilinear transform.
 *
 * @throws HypometError `setting-range` when a cutoff is not below half the sample rate, or a band's not in order
 * @source Oppenheim & Schafer, Discrete-Time Signal Processing, ch. 7
 */
export function butterworth({ kind, order, cutoff, sampleRate }: ButterworthDesign): Section[] {
  const edges = typeof cutoff === 'number' ? [cutoff] : [...cutoff]
  if (edges.length !== (kind === 'band' ? 2 : 1))
    throw new HypometError(
      'setting-type',
      kind === 'band' ? 'A band has two cutoffs.' : `A ${kind}-pass has one cutoff.`,
      { path: 'settings.cutoff' },
    )
  if (edges.some(f => !(f > 0) || f >= sampleRate / 2))
    throw new HypometError('setting-range', `A cutoff lies between 0 and half the sample rate, ${sampleRate / 2} Hz.`, {
      path: 'settings.cutoff',
    })
  if (kind === 'band' && edges[0]! >= edges[1]!)
    throw new HypometError('setting-range', 'The band must begin below its end.', { path: 'settings.cutoff' })
  const warped = edges.map(f => Math.tan((Math.PI * f) / sampleRate))
  if (kind === 'band') return bandSections(order, warped[0]!, warped[1]!)
  return poleAngles(order).map(angle =>
    angle === 0 ? firstOrder(kind, warped[0]!) : secondOrder(kind, warped[0]!, 2 * Math.cos(angle)),
  )
}

/** Angles of the prototype's upper poles from the negative real axis; 0 stands for the single real pole. */
function poleAngles(order: number): number[] {
  const angles: number[] = []
  for (let m = order % 2 === 0 ? 1 : 0; m < order; m += 2) angles.push((Math.PI * m) / (2 * order))
  return angles
}

function secondOrder(kind: 'low' | 'high', K: number, damping: number): Section {
  const scale = 1 / (1 + damping * K + K * K)
  const b0 = kind === 'low' ? K * K * scale : scale
  return {
    b0,
    b1: kind === 'low' ? 2 * b0 : -2 * b0,
    b2: b0,
    a1: 2 * (K * K - 1) * scale,
    a2: (1 - damping * K + K * K) * scale,
  }
}

function firstOrder(kind: 'low' | 'high', K: number): Section {
  const b0 = (kind === 'low' ? K : 1) / (1 + K)
  return { b0, b1: kind === 'low' ? b0 : -b0, b2: 0, a1: (K - 1) / (K + 1), a2: 0 }
}

/** Each prototype pole p gives the two roots of s² − p·B·s + w1·w2 = 0; conjugates make a section. */
function bandSections(order: number, w1: number, w2: number): Section[] {
  const B = w2 - w1
  const product = w1 * w2
  return poleAngles(order).flatMap(angle => {
    if (angle === 0) return [bandSection(B, B, product)]
    const [re, im] = [(-Math.cos(angle) * B) / 2, (Math.sin(angle) * B) / 2]
    // Square root of (p·B/2)² − w1·w2.
    const [qr, qi] = [re * re - im * im - product, 2 * re * im]
    const size = Math.hypot(qr, qi)
    const root = { re: Math.sqrt((size + qr) / 2), im: Math.sign(qi || 1) * Math.sqrt((size - qr) / 2) }
    return [1, -1].map(sign => {
      const [sr, si] = [re + sign * root.re, im + sign * root.im]
      return bandSection(B, -2 * sr, sr * sr + si * si)
    })
  })
}

/** Bilinear transform of B·s / (s² + c1·s + c0). */
function bandSection(B: number, c1: number, c0: number): Section {
  const scale = 1 / (1 + c1 + c0)
  return { b0: B * scale, b1: 0, b2: -B * scale, a1: 2 * (c0 - 1) * scale, a2: (1 - c1 + c0) * scale }
}
