import { SeededRandom } from '../statistics/random'

/** What a choice is weighed by; of all of them less is better. */
export interface Option {
  id: string
  /** Criterion by name; null where it is not known: it then counts as the worst. */
  values: Readonly<Record<string, number | null>>
}

export interface Traded {
  id: string
  /** 0 … 1, more is better. */
  score: number
  /** Each criterion's share of the score, by its weight. */
  parts: Record<string, number>
  /** Share of all weightings for which it comes first. */
  firstIn: number
}

export interface Trade {
  options: Traded[]
  winner: string | null
  /** The smallest change of one weight – shares of all – after which another comes first; null where none does. */
  upsetBy: { criterion: string; from: number; to: number; winner: string } | null
}

const DRAWS = 2000
const STEPS = 100

/**
 * Options by a weighted sum of criteria, each scaled from its worst to its best among the options. How far the winner
 * hangs on
 * the weights is told twice: in what share of all weightings it comes first, and by which weight it is upset first.
 *
 * @param weights  by criterion, from 0; their sum does not matter
 * @source Triantaphyllou, Multi-criteria Decision Making Methods (2000), ch. 2 (weighted sum), ch. 8 (most critical
 * criterion)
 */
export function trade(options: readonly Option[], weights: Readonly<Record<string, number>>, seed = 1): Trade {
  const criteria = Object.keys(weights)
  const scaled = options.map(o => Object.fromEntries(criteria.map(c => [c, scaledValue(o, c, options)])))
  const shares = shared(criteria.map(c => Math.max(0, weights[c]!)))
  const scores = (by: readonly number[]) => scaled.map(s => criteria.reduce((sum, c, i) => sum + by[i]! * s[c]!, 0))
  const first = (by: readonly number[]) => indexOfMax(scores(by))
  const own = scores(shares)
  const random = new SeededRandom(seed)
  const wins = new Array<number>(options.length).fill(0)
  // Uniform over all weightings: spacings of exponential draws.
  for (let i = 0; i < DRAWS && options.length > 0; i++)
    wins[first(shared(criteria.map(() => -Math.log(1 - random.uniform()))))]! += 1
  const winner = options.length > 0 ? first(shares) : -1
  return {
    options: options.map((o, i) => ({
      id: o.id,
      score: own[i]!,
      parts: Object.fromEntries(criteria.map((c, j) => [c, shares[j]! * scaled[i]![c]!])),
      firstIn: wins[i]! / DRAWS,
    })),
    winner: options[winner]?.id ?? null,
    upsetBy: winner < 0 ? null : upset(criteria, shares, winner, first, options),
  }
}

function scaledValue(option: Option, criterion: string, options: readonly Option[]): number {
  const known = options.flatMap(o => o.values[criterion] ?? [])
  const [best, worst] = [Math.min(...known), Math.max(...known)]
  const value = option.values[criterion]
  if (value == null) return known.length === 0 ? 1 : 0
  return worst === best ? 1 : (worst - value) / (worst - best)
}

const shared = (weights: readonly number[]): number[] =>
  (sum => weights.map(w => (sum > 0 ? w / sum : 1 / weights.length)))(weights.reduce((s, w) => s + w, 0))

const indexOfMax = (values: readonly number[]): number =>
  values.reduce((best, v, i) => (v > values[best]! + 1e-12 ? i : best), 0)

/** One weight moved to every share from zero to all, the others keeping their proportions. */
function upset(
  criteria: readonly string[],
  shares: readonly number[],
  winner: number,
  first: (by: readonly number[]) => number,
  options: readonly Option[],
): Trade['upsetBy'] {
  let nearest: { by: number; found: NonNullable<Trade['upsetBy']> } | null = null
  for (let i = 0; i < criteria.length; i++) {
    for (let step = 0; step <= STEPS; step++) {
      const to = step / STEPS
      const rest = 1 - shares[i]!
      const other = (j: number) => (rest > 0 ? (shares[j]! / rest) * (1 - to) : (1 - to) / (criteria.length - 1 || 1))
      const now = first(shares.map((_, j) => (j === i ? to : other(j))))
      const by = Math.abs(to - shares[i]!)
      if (now !== winner && (!nearest || by < nearest.by))
        nearest = { by, found: { criterion: criteria[i]!, from: shares[i]!, to, winner: options[now]!.id } }
    }
  }
  return nearest?.found ?? null
}
