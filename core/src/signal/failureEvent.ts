export interface FailureEvent {
  index: number
  time: number
  /** Largest value before it, and what it fell to. */
  from: number
  to: number
}

const LOOKED_FOR_FROM = 0.2

/**
 * First sample whose fall from the largest value within `dropTime` before it reaches `dropFraction` of the running
 * maximum; looked for only once the running maximum has reached 20 % of the record's.
 *
 * @param t  rising, s
 * @param y  guide, no gaps
 * @source methods.md, section 4
 */
export function failureEvent(t: Float64Array, y: Float64Array, dropFraction: number, dropTime: number): FailureEvent | null {
  const enough = LOOKED_FOR_FROM * y.reduce((m, v) => (v > m ? v : m), -Infinity)
  // Indices of candidates for the maximum of the last `dropTime`, their values falling.
  const recent = new Int32Array(y.length)
  let [head, tail, running] = [0, 0, -Infinity]
  for (let j = 0; j < y.length; j++) {
    const v = y[j]!
    while (tail > head && y[recent[tail - 1]!]! <= v) tail--
    recent[tail++] = j
    while (t[recent[head]!]! < t[j]! - dropTime - 1e-9) head++
    if (v > running) running = v
    const before = y[recent[head]!]!
    if (running >= enough && running > 0 && before - v >= dropFraction * running) return { index: j, time: t[j]!, from: before, to: v }
  }
  return null
}
