import { leastSquares } from '../statistics/leastSquares'

export interface Wave {
  number: number
  amplitude: number
  /** rad, of its crest. */
  phase: number
}

/**
 * Waves around a ring of readings, by least squares at their angles: as many as the readings can tell apart, (n − 1)/2.
 * What
 * has more waves than that looks like one of these.
 *
 * @param angle  rad around, each once
 * @returns  from wave number 0 on; empty below three readings
 * @source Nyquist (1928) for the most that n readings tell apart
 * @example wavesAround([0, 2.0944, 4.1888], [1, -0.5, -0.5]) // number 1, amplitude 1
 */
export function wavesAround(angle: readonly number[], value: readonly number[]): Wave[] {
  const n = angle.length
  const most = Math.floor((n - 1) / 2)
  if (n < 3) return []
  const rows = angle.map(a =>
    Array.from({ length: 2 * most + 1 }, (_, k) =>
      k === 0 ? 1 : k % 2 === 1 ? Math.cos(((k + 1) / 2) * a) : Math.sin((k / 2) * a),
    ),
  )
  const { coefficients } = leastSquares(rows, Float64Array.from(value))
  return Array.from({ length: most + 1 }, (_, number) => {
    if (number === 0) return { number, amplitude: Math.abs(coefficients[0]!), phase: 0 }
    const [c, s] = [coefficients[2 * number - 1]!, coefficients[2 * number]!]
    return { number, amplitude: Math.hypot(c, s), phase: Math.atan2(s, c) / number }
  })
}

/** The largest wave that is more than a shift of the whole ring; null where the ring cannot tell. */
export const largestWave = (waves: readonly Wave[]): Wave | null =>
  waves.filter(w => w.number >= 2).reduce<Wave | null>((m, w) => (!m || w.amplitude > m.amplitude ? w : m), null)
