import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { HypometError } from '../error'
import { leastSquares } from './leastSquares'

/** Runs of a two-level design: levels −1 and +1 by factor, and what was measured. */
export interface FactorialRun {
  levels: Readonly<Record<string, -1 | 1>>
  response: number
}

export interface Effect {
  /** “A” or “A·B”. */
  term: string
  /** Mean at the high level less mean at the low level. */
  effect: number
  /** 95 %; null where the design leaves no degrees of freedom. */
  interval: [number, number] | null
  /** Terms that cannot be told from this one in this design, with a minus where the sign is turned. */
  aliases: string[]
}

export interface FactorialFit {
  mean: number
  effects: Effect[]
  residualSd: number | null
  dof: number
}

/**
 * Main effects and two-factor interactions of a two-level design, full or fractional, by least squares, with the
 * aliasing named: of terms whose columns are the same, the one of lowest order stands for all.
 *
 * @throws HypometError `too-few` when there are fewer runs than terms that can be told apart
 * @source Box, Hunter & Hunter, Statistics for Experimenters, ch. 5 and 6
 */
export function fitFactorial(factors: readonly string[], runs: readonly FactorialRun[]): FactorialFit {
  const groups = aliasGroups(termsOf(factors), runs)
  const p = groups.length + 1
  if (runs.length < p)
    throw new HypometError('too-few', `${runs.length} runs cannot tell ${groups.length} effects apart.`)
  const X = runs.map((run, i) => [1, ...groups.map(g => g.column[i]!)])
  const { coefficients, inverse, rss } = leastSquares(
    X,
    runs.map(r => r.response),
  )
  const dof = runs.length - p
  const residualSd = dof > 0 ? Math.sqrt(rss / dof) : null
  const t = dof > 0 ? tQuantile(0.975, dof) : NaN
  return {
    mean: coefficients[0]!,
    dof,
    residualSd,
    effects: groups.map((g, j): Effect => {
      const effect = 2 * coefficients[j + 1]!
      const half = residualSd === null ? null : 2 * t * residualSd * Math.sqrt(inverse[j + 1]![j + 1]!)
      return {
        term: g.term,
        effect,
        interval: half === null ? null : [effect - half, effect + half],
        aliases: g.aliases,
      }
    }),
  }
}

/** Main effects, then pairs. */
export const termsOf = (factors: readonly string[]): string[][] => [
  ...factors.map(f => [f]),
  ...factors.flatMap((a, i) => factors.slice(i + 1).map(b => [a, b])),
]

/** Level of a term in a run: the product of its factors’. */
export const termColumn = (term: readonly string[], levels: FactorialRun['levels']): number =>
  term.reduce((product, f) => product * levels[f]!, 1)

export interface Group {
  term: string
  column: number[]
  aliases: string[]
}

/** Terms with the same column, or its opposite, or none of their own (constant), fall together. */
export function aliasGroups(terms: string[][], runs: readonly Pick<FactorialRun, 'levels'>[]): Group[] {
  const groups: Group[] = []
  for (const term of terms) {
    const column = runs.map(r => termColumn(term, r.levels))
    if (column.every(v => v === column[0])) continue
    const name = term.join('·')
    const same = groups.find(g => g.column.every((v, i) => v === column[i]))
    const turned = groups.find(g => g.column.every((v, i) => v === -column[i]!))
    if (same) same.aliases.push(name)
    else if (turned) turned.aliases.push(`−${name}`)
    else groups.push({ term: name, column, aliases: [] })
  }
  return groups
}
