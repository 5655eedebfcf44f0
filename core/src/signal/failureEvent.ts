import { indexOfMax } from './rising'
import { windowRange } from './window'

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
export function failureEvent(
  t: Float64Array,
  y: Float64Array,
  dropFraction: number,
  dropTime: number,
): FailureEvent | null {
  const enough = LOOKED_FOR_FROM * y[indexOfMax(y)]!
  const first = firstFall(y, enough, dropFraction)
  if (first < 0) return null
  // Indices of candidates for the maximum of the last `dropTime`, their values falling; what lies before it cannot
  // count.
  const from = windowRange(t, [t[first]! - dropTime, t[first]!])[0]
  const recent = new Int32Array(y.length - from)
  let [head, tail, running] = [0, 0, -Infinity]
  for (let j = 0; j < from; j++) if (y[j]! > running) running = y[j]!
  for (let j = from; j < y.length; j++) {
    const v = y[j]!
    while (tail > head && y[recent[tail - 1]!]! <= v) tail--
    recent[tail++] = j
    while (t[recent[head]!]! < t[j]! - dropTime - 1e-9) head++
    if (v > running) running = v
    const before = y[recent[head]!]!
    if (running >= enough && running > 0 && before - v >= dropFraction * running)
      return { index: j, time: t[j]!, from: before, to: v }
  }
  return null
}

/**
 * First sample that has fallen far enough below the largest so far, however slowly: none before it can be the event.
 */
function firstFall(y: Float64Array, enough: number, dropFraction: number): number {
  let running = -Infinity
  for (let j = 0; j < y.length; j++) {
    const v = y[j]!
    if (v > running) running = v
    if (running >= enough && running > 0 && running - v >= dropFraction * running) return j
  }
  return -1
}
