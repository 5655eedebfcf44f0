import type { Bound } from '../method/reduction'
import { fitNormal } from '../statistics/censoredFit'
import { fitLine } from '../statistics/line'
import { meanSd } from '../statistics/mean'
import { outliers } from '../statistics/outliers'
import { predictionBand } from '../statistics/predictionBand'
import { toleranceFactor } from '../statistics/toleranceFactor'

/* Several specimens of one article: how they spread, what may be claimed of the next, and when worn ones are to go. */

export interface SpecimenValue {
  value: number
  bound: Bound
}

/** One test of a set: what it came to, and how it was done. */
export interface SetMember {
  id: number
  result: { value: number | null; bound: Bound } | undefined
  /** Judged to show nothing. */
  invalid: boolean
  /** Fixture and way of loading, in words. */
  setUp: string
  /** The same article, tested once more. */
  isAgain: boolean
}

/**
 * Which tests a basis may be claimed of, and why others are left out: of one set-up, that of the test which is looked
 * at or else of most; each article once; and those that came to their end, for what ended before it failed says only
 * what it held.
 */
export function setOf<M extends SetMember>(
  members: readonly M[],
  ownId: number,
): { counted: M[]; leftOut: [M, string][] } {
  const setUp = members.find(m => m.id === ownId)?.setUp || mostFrequent(members.map(m => m.setUp).filter(Boolean))
  const reason = ({ result, invalid, setUp: own, isAgain }: M): string | null => {
    if (invalid) return 'shows nothing'
    if (result?.value == null) return 'has no value'
    if (result.bound === 'atLeast') return 'ended before it failed: a lower bound'
    if (result.bound === 'atMost') return 'an upper bound'
    if (isAgain) return 'the same article once more'
    return own && setUp && own !== setUp ? `set up otherwise: ${own}` : null
  }
  const [counted, leftOut]: [M[], [M, string][]] = [[], []]
  for (const m of members) {
    const why = reason(m)
    if (why) leftOut.push([m, why])
    else counted.push(m)
  }
  return { counted, leftOut }
}

function mostFrequent(words: readonly string[]): string {
  const count = (w: string) => words.filter(v => v === w).length
  return words.reduce((a, b) => (count(b) > count(a) ? b : a), words[0] ?? '')
}

/** A limit that specimens are held against. */
export interface Wall {
  value: number
  comparator: 'atLeast' | 'atMost'
}

export interface SpreadOptions {
  /** Share of the population that is to lie on the right side, and how sure. */
  coverage?: number
  confidence?: number
  wall?: Wall
  /** On which side most are to lie, where no wall says it. */
  comparator?: Wall['comparator'] | undefined
}

export interface Spread {
  n: number
  mean: number
  /** Null where it cannot be told. */
  sd: number | null
  cv: number | null
  k: number | null
  /** mean ∓ k·sd: what the share of the population lies beyond, with that confidence. */
  claim: number | null
  /**
   * Specimens more until the claim meets the wall, if mean and spread stay; null where none would do, or there is no
   * wall.
   */
  more: number | null
  outliers: number[]
  /** Some values are lower bounds and are taken as such. */
  isCensored: boolean
}

const MOST_SPECIMENS = 200

/**
 * Spread of specimens with a one-sided normal tolerance bound. Lower bounds count as right-censored (normal, maximum
 * likelihood, its scale widened by √(n/(n − 1))); of an interval its middle is taken. B-basis (90 %, 95 %) unless asked
 * otherwise.
 *
 * @source Natrella (1963), NBS Handbook 91, ch. 2; CMH-17-1G, 8.3
 * @example spreadOf([{ value: 10, bound: 'exact' }, …]) // k 3.407 for five
 */
export function spreadOf(
  values: readonly SpecimenValue[],
  { coverage = 0.9, confidence = 0.95, wall, comparator = wall?.comparator }: SpreadOptions = {},
): Spread | null {
  const n = values.length
  if (n === 0) return null
  const isCensored = values.some(v => v.bound === 'atLeast')
  const { mean, sd } = centre(values)
  const none = { n, mean, sd: null, cv: null, k: null, claim: null, more: null, outliers: [], isCensored }
  if (!Number.isFinite(sd) || n < 2) return none
  const side = comparator === 'atMost' ? 1 : -1
  const kOf = (count: number) => toleranceFactor({ n: count, p: coverage, gamma: confidence })
  const claimOf = (count: number) => mean + side * kOf(count) * sd
  const more = wall ? fewestMore(n, count => side * (claimOf(count) - wall.value) <= 0) : null
  return {
    n,
    mean,
    sd,
    cv: sd / Math.abs(mean),
    k: kOf(n),
    claim: claimOf(n),
    more,
    outliers: farFrom(values),
    isCensored,
  }
}

/** A claim comes closer with every specimen: halved, not counted through. */
function fewestMore(n: number, meets: (count: number) => boolean): number | null {
  if (meets(n)) return 0
  if (n >= MOST_SPECIMENS || !meets(MOST_SPECIMENS)) return null
  let [short, enough] = [n, MOST_SPECIMENS]
  while (enough - short > 1) {
    const middle = (short + enough) >> 1
    if (meets(middle)) enough = middle
    else short = middle
  }
  return enough - n
}

/** Of those that failed: a bound may lie anywhere below. */
function farFrom(values: readonly SpecimenValue[]): number[] {
  const failed = values.flatMap((v, i) => (v.bound === 'atLeast' || v.bound === 'atMost' ? [] : [i]))
  return outliers(failed.map(i => values[i]!.value)).map(k => failed[k]!)
}

function centre(values: readonly SpecimenValue[]): { mean: number; sd: number } {
  const plain = values.map(v => v.value)
  const failures = values.filter(v => v.bound !== 'atLeast')
  if (failures.length === values.length) return meanSd(plain)
  if (new Set(failures.map(v => v.value)).size < 2) return { mean: meanSd(plain).mean, sd: NaN }
  const { location, scale } = fitNormal(values.map(v => ({ value: v.value, isBound: v.bound === 'atLeast' })))
  return { mean: location, sd: scale * Math.sqrt(values.length / (values.length - 1)) }
}

export interface Trend {
  slope: number
  intercept: number
  n: number
  /**
   * The line and the band in which the next single specimen lies with 95 % confidence, over the range of the measure.
   */
  curve: { x: number[]; line: number[]; lower: number[]; upper: number[] }
  /** Measure at which the band's edge meets the wall; null where it does not in reach. */
  meets: number | null
}

const POINTS = 60
/** How far beyond what was tested the meeting is looked for, as a share of the range tested. */
const REACH = 1

/**
 * A result over a measure – strength over wear – with its prediction band, and the measure at which the band's edge
 * meets
 * a wall: from there on the next specimen can no longer be counted on.
 *
 * @returns null with fewer than three specimens, or all at one measure
 * @source Draper & Smith, Applied Regression Analysis, ch. 1.4
 */
export function trendOf(x: readonly number[], y: readonly number[], wall?: Wall): Trend | null {
  if (x.length < 3 || new Set(x).size < 2) return null
  const { slope, intercept } = fitLine(x, y)
  const band = predictionBand(x, y)
  const [low, high] = [Math.min(...x), Math.max(...x)]
  const at = Array.from({ length: POINTS + 1 }, (_, i) => low + ((high - low) * i) / POINTS)
  const room =
    ({ value: limit, comparator }: Wall) =>
    (v: number) => {
      const { value, half } = band(v)
      return comparator === 'atMost' ? limit - value - half : value - half - limit
    }
  return {
    slope,
    intercept,
    n: x.length,
    meets: wall ? meeting(room(wall), low, high + REACH * (high - low)) : null,
    curve: {
      x: at,
      line: at.map(v => band(v).value),
      lower: at.map(v => band(v).value - band(v).half),
      upper: at.map(v => band(v).value + band(v).half),
    },
  }
}

const STEPS = 400
const HALVINGS = 50

/** First place at which the room to the wall is gone; null where it never is, or never was there. */
function meeting(room: (x: number) => number, from: number, to: number): number | null {
  if (room(from) < 0) return null
  for (let i = 1; i <= STEPS; i++) {
    let [a, b] = [from + ((to - from) * (i - 1)) / STEPS, from + ((to - from) * i) / STEPS]
    if (room(b) >= 0) continue
    for (let k = 0; k < HALVINGS; k++) {
      const middle = (a + b) / 2
      if (room(middle) < 0) b = middle
      else a = middle
    }
    return a
  }
  return null
}
