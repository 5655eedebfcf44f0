import { meanSd } from '../statistics/mean'

/** One prediction that was locked before its test, and what came. SI. */
export interface Foretold {
  group: string
  predicted: number
  /** Half width of the band that was claimed; zero where none was. */
  band: number
  measured: number
}

export interface PredictionRecord {
  group: string
  n: number
  /** Mean of measured over predicted, and its scatter; null with one alone. */
  bias: number
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
      const mine = all.filter(f => f.group === group && f.predicted !== 0)
      const ratios = mine.map(f => f.measured / f.predicted)
      const { mean, sd } = meanSd(ratios)
      const banded = mine.filter(f => f.band > 0)
      const inside = banded.filter(f => Math.abs(f.measured - f.predicted) <= f.band).length
      return {
        group,
        n: mine.length,
        bias: mean,
        scatter: mine.length > 1 ? sd : null,
        banded: banded.length,
        inside,
        words: wordsFor(mine.length, mean, sd, banded.length, inside),
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
