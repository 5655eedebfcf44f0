import type { SeededRandom } from '../statistics/random'

/** What a gauge makes of a true value, SI. */
export interface GaugeMake {
  /** Zero reading of the untared channel, and how it wanders, a second. */
  zero: number
  drift: number
  /** 1σ of a sample. */
  noise: number
  /** Width of the loop between going up and coming down. */
  hysteresis: number
  /** Of the converter. */
  step: number
  /** Beyond which it reads no further. */
  range: number
}

/** Shares of full scale of a fair gauge. */
const FAIR = { zero: 2e-3, drift: 2e-7, noise: 1e-4, hysteresis: 2e-4 }

/** A fair gauge of a range, its zero and drift drawn. */
export function drawGauge(fullScale: number, bits: number, random: SeededRandom): GaugeMake {
  return {
    zero: FAIR.zero * fullScale * random.normal(),
    drift: FAIR.drift * fullScale * random.normal(),
    noise: FAIR.noise * fullScale,
    hysteresis: FAIR.hysteresis * fullScale,
    step: (2.5 * fullScale) / 2 ** bits,
    range: 1.25 * fullScale,
  }
}

/**
 * One sample of a gauge.
 *
 * @param slack  what its play has followed so far; the new one comes back with the reading
 * @source play operator: Mayergoyz, Mathematical Models of Hysteresis
 */
export function readGauge(
  g: GaugeMake,
  slack: number,
  truth: number,
  t: number,
  random: SeededRandom,
): { reading: number; slack: number } {
  const half = g.hysteresis / 2
  const followed = Math.min(Math.max(slack, truth - half), truth + half)
  const raw = followed + g.zero + g.drift * t + (g.noise > 0 ? g.noise * random.normal() : 0)
  const within = Math.min(g.range, Math.max(-g.range, raw))
  return { reading: g.step > 0 ? Math.round(within / g.step) * g.step : within, slack: followed }
}
