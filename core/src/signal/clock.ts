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
 * @param repair  what is said of stamps that repeat or step back: those are let through, for `mendedClock`
 * @returns  the first sample whose stamp does not rise and cannot be explained so, or null
 */
export function orderClock(
  t: Float64Array,
  state: ClockState,
  second = 1,
  { repeats, jumps }: ClockRepair = {},
): number | null {
  for (let i = 0; i < t.length; i++) {
    let v = t[i]! + state.added
    if (Number.isNaN(v)) continue
    const { last } = state
    if (last !== null && v <= last) {
      const fits = (jump: number, within: number) =>
        v + jump * second > last && v + jump * second - last < within * second
      const jump = fits(DAY, SOON) ? DAY : fits(HOUR, AT_ONCE) ? HOUR : 0
      if (jump === 0 && (v === last ? !repeats : !jumps)) return i
      if (jump > 0) state.added += jump * second
      if (jump > 0) state.repairs.push({ code: jump === DAY ? 'midnight' : 'hour-back', at: last })
      v += jump * second
    }
    t[i] = v
    state.last = v
  }
  return null
}

/** A clock leaps where one interval is longer than so many usual ones, and than half of what it counted. */
export interface ClockRepair {
  repeats?: 'drop' | 'average' | 'nudge' | undefined
  jumps?: 'first' | 'last' | 'longest' | undefined
}

export interface MendedClock {
  /** Of the rows that stay. */
  t: Float64Array
  /** Rows from which each of them is made: one, or several to be averaged. */
  from: Uint32Array
  to: Uint32Array
  repeated: number
  /** Pieces that were found, and how many rows of others were left out. */
  pieces: number
  left: number
}

/** A clock leaps where one interval is longer than so many usual ones, and than half of what it has counted. */
const LEAP = 1000

/**
 * A clock in which repeated stamps are dropped, averaged or spread up to the next one, and of which one piece between
 * jumps is kept. Gaps (NaN) stay where they are.
 *
 * @returns  null where it rises already and does not jump
 */
export function mendedClock(t: Float64Array, { repeats, jumps }: ClockRepair): MendedClock | null {
  const pieces = jumps ? clockPieces(t) : [{ from: 0, to: t.length }]
  const piece =
    jumps === 'last'
      ? pieces.at(-1)!
      : pieces.reduce((best, p) => (jumps === 'longest' && p.to - p.from > best.to - best.from ? p : best))
  const own = t.subarray(piece.from, piece.to)
  const starts = startsOf(own)
  const runs = starts.length - 1
  const repeated = own.length - runs
  if (repeated === 0 && pieces.length < 2) return null
  const isSpread = repeats === 'nudge'
  const rows = isSpread ? own.length : runs
  const [kept, from, to] = [new Float64Array(rows), new Uint32Array(rows), new Uint32Array(rows)]
  let row = 0
  for (let k = 0; k < runs; k++) {
    const [first, end] = [starts[k]!, starts[k + 1]!]
    const width = isSpread && end - first > 1 ? spreadOf(own, starts, k) / (end - first) : 0
    for (let i = first; i < (isSpread ? end : first + 1); i++, row++) {
      kept[row] = own[first]! + (i - first) * width
      from[row] = piece.from + i
      to[row] = repeats === 'average' ? piece.from + end : piece.from + i + 1
    }
  }
  return { t: kept, from, to, repeated, pieces: pieces.length, left: t.length - own.length }
}

/** Where rows of one stamp begin, and after the last where they end; a gap stands by itself. */
function startsOf(t: Float64Array): Uint32Array {
  const starts = new Uint32Array(t.length + 1)
  let n = 0
  for (let i = 0; i < t.length; i++) if (i === 0 || t[i] !== t[i - 1]) starts[n++] = i
  starts[n] = t.length
  return starts.subarray(0, n + 1)
}

/** From the stamp of some rows to the next one; of the last as from the one before. */
function spreadOf(t: Float64Array, starts: Uint32Array, k: number): number {
  const own = t[starts[k]!]!
  const [before, after] = [t[starts[k - 1] ?? -1], t[starts[k + 1]!]]
  if (after !== undefined && after > own) return after - own
  return before !== undefined && before < own ? own - before : 0
}

/** Pieces of a clock that rise without a leap, as rows from, and up to before. */
export function clockPieces(t: Float64Array): { from: number; to: number }[] {
  const rises = [...t.subarray(0, 4096)].filter(v => !Number.isNaN(v))
  const steps = rises.flatMap((v, i) => (i > 0 && v > rises[i - 1]! ? [v - rises[i - 1]!] : [])).sort((a, b) => a - b)
  const usual = steps[steps.length >> 1] ?? 0
  const pieces = [{ from: 0, to: t.length }]
  let [first, last] = [NaN, NaN]
  for (let i = 0; i < t.length; i++) {
    const v = t[i]!
    if (Number.isNaN(v)) continue
    const isLeap = usual > 0 && v - last > LEAP * usual && v - last > (last - first) / 2
    if (v < last || isLeap) {
      pieces.at(-1)!.to = i
      pieces.push({ from: i, to: t.length })
      first = v
    }
    if (Number.isNaN(first)) first = v
    last = v
  }
  return pieces
}
