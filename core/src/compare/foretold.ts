import type { Result } from '../method/reduction'
import { meanSd } from '../statistics/mean'

/** One prediction that was locked before its test, and what came. SI. */
export interface Foretold {
  group: string
  predicted: number
  /** Half width of the band that was claimed; zero where none was. */
  band: number
  measured: number
  /** Only a bound was measured, and it contradicts what was claimed. */
  isContradicted?: boolean
}

/**
 * Whether what a bound or an interval leaves possible lies beyond a prediction's band, with its own uncertainty off.
 *
 * @param band  half width of what was claimed, SI
 */
export function contradicts(
  { value, bound, u, k }: Pick<Result, 'value' | 'bound' | 'u' | 'k'>,
  predicted: number,
  band: number,
): boolean {
  if (value === null || bound === 'exact') return false
  const U = (u ?? 0) * (k ?? 2)
  const [low, high] =
    typeof bound === 'object' ? bound.interval : bound === 'atLeast' ? [value - U, Infinity] : [-Infinity, value + U]
  return low > predicted + band || high < predicted - band
}

/**
 * Whether a prediction speaks of what results were measured on; one that names no configuration speaks of any.
 *
 * @param settings  of the reduction
 */
export function speaksOf(
  said: string | null,
  { configOf }: { configOf?: (settings: Readonly<Record<string, unknown>>) => string | null },
  settings: Readonly<Record<string, unknown>>,
): boolean {
  const name = said?.trim().toLowerCase() ?? ''
  return name === '' || !configOf || configOf(settings)?.trim().toLowerCase() === name
}

export interface PredictionRecord {
  group: string
  n: number
  /** Mean of measured over predicted, null where only bounds are known; and its scatter, null with one alone. */
  bias: number | null
  scatter: number | null
  /** How many claimed a band, and of how many the measured value lay in it. */
  banded: number
  inside: number
  /** What to make of it. */
  words: string
}

/** A band is a claim of about 95 %: far fewer inside, and it was too narrow. */
const CLAIMED = 0.95
const ENOUGH = 5

/**
 * How good predictions were, group by group: how far off on average, how scattered, and how often inside the band they
 * claimed.
 */
export function recordOf(all: readonly Foretold[]): PredictionRecord[] {
  return [...new Set(all.map(f => f.group))]
    .map(group => {
      const own = all.filter(f => f.group === group && f.predicted !== 0)
      const mine = own.filter(f => !f.isContradicted)
      // A bound says nothing of how far off it is, but that the band did not hold.
      const missed = own.filter(f => f.isContradicted && f.band > 0).length
      const ratios = mine.map(f => f.measured / f.predicted)
      const { mean, sd } = meanSd(ratios)
      const banded = mine.filter(f => f.band > 0)
      const inside = banded.filter(f => Math.abs(f.measured - f.predicted) <= f.band).length
      return {
        group,
        n: own.length,
        bias: mine.length > 0 ? mean : null,
        scatter: mine.length > 1 ? sd : null,
        banded: banded.length + missed,
        inside,
        words: wordsFor(mine.length, mean, sd, banded.length + missed, inside),
      }
    })
    .filter(r => r.n > 0)
    .toSorted((a, b) => b.n - a.n)
}

function wordsFor(n: number, bias: number, sd: number, banded: number, inside: number): string {
  if (n < ENOUGH) return 'Too few to judge by.'
  const standardError = sd / Math.sqrt(n)
  const off =
    Math.abs(bias - 1) > 2 * standardError
      ? `${bias > 1 ? 'Too low' : 'Too high'} by ${Math.abs(100 * (bias - 1)).toFixed(0)} % on average.`
      : 'Right on average.'
  const share = banded === 0 ? null : inside / banded
  return share === null
    ? `${off} No bands were claimed.`
    : share < CLAIMED - 2 * Math.sqrt((CLAIMED * (1 - CLAIMED)) / banded)
      ? `${off} Their bands were too narrow.`
      : `${off} Their bands held.`
}
