/** What is known of a clock so far: its last stamp as put in order, and what was added to bring stamps there, s. */
export interface ClockState {
  last: number | null
  added: number
  repairs: { code: 'midnight' | 'hour-back'; at: number }[]
}

const DAY = 86_400
const HOUR = 3600
/** A logger that wrapped at midnight goes on within this time after it. */
const SOON = 1800
/** Clocks put back an hour go on at once. */
const AT_ONCE = 60

/**
 * Puts the stamps of a record in order where a logger's clock of the day began anew at midnight or was put back an
 * hour;
 * what was done is named in the state. Works block after block, in place.
 *
 * @param t  stamps, gaps NaN
 * @param second  one second in the stamps' unit
 * @returns  the first sample whose stamp does not rise and cannot be explained so, or null
 */
export function orderClock(t: Float64Array, state: ClockState, second = 1): number | null {
  for (let i = 0; i < t.length; i++) {
    let v = t[i]! + state.added
    if (Number.isNaN(v)) continue
    const { last } = state
    if (last !== null && v <= last) {
      const fits = (jump: number, within: number) =>
        v + jump * second > last && v + jump * second - last < within * second
      const jump = fits(DAY, SOON) ? DAY : fits(HOUR, AT_ONCE) ? HOUR : 0
      if (jump === 0) return i
      state.added += jump * second
      state.repairs.push({ code: jump === DAY ? 'midnight' : 'hour-back', at: last })
      v += jump * second
    }
    t[i] = v
    state.last = v
  }
  return null
}
