import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { HypometError } from '../error'
import { leastSquares, type LinearFit } from './leastSquares'

/** One trial: what each factor was set to – a number, or the name of a level – and what was measured. */
export interface Trial {
  settings: Readonly<Record<string, number | string>>
  response: number
}

export interface MainEffect {
  factor: string
  /** null for a factor of numbers, whose effect is a slope. */
  level: string | null
  /** A level's mean response less the mean over the factor's levels; or response per unit of the factor. */
  effect: number
  /** 95 %; null where the trials leave no degrees of freedom. */
  interval: [number, number] | null
  /** Factors that these trials cannot tell from this one. */
  aliases: string[]
}

export interface MainEffectsFit {
  /** Response at the mean of the numbers and the middle of the levels. */
  mean: number
  effects: MainEffect[]
  /** Factors without an effect of their own here: what the others, or none, already say. */
  leftOut: { factor: string; aliasOf: string[] }[]
  residualSd: number | null
  dof: number
}

interface Term {
  factor: string
  level: string | null
  column: number[]
}

/**
 * Main effects of any factors by least squares: factors of numbers enter as slopes about their mean, factors of levels
 * with effects that add up to zero. A factor that the earlier ones already determine has no effect of its own; it is
 * left
 * out and named as the alias of those it depends on.
 *
 * @param factors  in the order in which they are entered
 * @throws HypometError `too-few` when there are fewer trials than effects; `data-range` for a setting that is missing
 * @source Montgomery, Design and Analysis of Experiments, ch. 3 and 10 (general regression significance)
 * @example
 * fitMainEffects(['steel'], [{ settings: { steel: 'a' }, response: 10 }, { settings: { steel: 'b' }, response: 14 }])
 *   .effects[1].effect // 2
 */
export function fitMainEffects(factors: readonly string[], trials: readonly Trial[]): MainEffectsFit {
  const kept: Term[] = []
  const leftOut: MainEffectsFit['leftOut'] = []
  for (const factor of factors) {
    const terms = termsOf(factor, trials)
    const depends = terms.length === 0 ? [] : dependence(kept, terms, trials)
    if (depends) leftOut.push({ factor, aliasOf: depends })
    else kept.push(...terms)
  }
  const p = kept.length + 1
  if (trials.length < p)
    throw new HypometError('too-few', `${trials.length} trials cannot tell ${kept.length} effects apart.`)
  const fit = leastSquares(
    rowsOf(kept, trials.length),
    trials.map(t => t.response),
  )
  const dof = trials.length - p
  const residualSd = dof > 0 ? Math.sqrt(fit.rss / dof) : null
  const effects = [...new Set(kept.map(t => t.factor))].flatMap(factor => {
    const aliases = leftOut.filter(l => l.aliasOf.includes(factor)).map(l => l.factor)
    return weightsOf(factor, kept, trials).map(([level, weights]) => ({
      factor,
      level,
      aliases,
      ...contrast(fit, weights, residualSd, dof),
    }))
  })
  return { mean: fit.coefficients[0]!, effects, leftOut, residualSd, dof }
}

/** A slope about the mean, or the first levels against the last; no term for a factor that does not vary. */
function termsOf(factor: string, trials: readonly Trial[]): Term[] {
  const settings = trials.map((t, i) => t.settings[factor] ?? missing(factor, i))
  if (settings.every(s => typeof s === 'number')) {
    const mean = settings.reduce((s, v) => s + v, 0) / settings.length
    return settings.some(v => v !== settings[0]) ? [{ factor, level: null, column: settings.map(v => v - mean) }] : []
  }
  const levels = levelsOf(factor, trials)
  const last = levels.at(-1)
  return levels.slice(0, -1).map(level => ({
    factor,
    level,
    column: settings.map(s => (String(s) === level ? 1 : String(s) === last ? -1 : 0)),
  }))
}

const missing = (factor: string, i: number): never => {
  throw new HypometError('data-range', `Trial ${i + 1} does not say what “${factor}” was.`, {
    path: `trials.${i}.settings.${factor}`,
  })
}

const levelsOf = (factor: string, trials: readonly Trial[]): string[] => [
  ...new Set(trials.map(t => String(t.settings[factor]))),
]

const rowsOf = (terms: readonly Term[], n: number): number[][] =>
  Array.from({ length: n }, (_, i) => [1, ...terms.map(t => t.column[i]!)])

/** The factors that already say what the new terms say; null when every new term brings something of its own. */
function dependence(kept: readonly Term[], terms: readonly Term[], trials: readonly Trial[]): string[] | null {
  for (const [j, term] of terms.entries()) {
    const earlier = [...kept, ...terms.slice(0, j)]
    if (earlier.length + 1 > trials.length)
      throw new HypometError('too-few', `${trials.length} trials cannot tell ${earlier.length} effects apart.`)
    const { coefficients, rss } = leastSquares(rowsOf(earlier, trials.length), term.column)
    const size = Math.sqrt(term.column.reduce((s, v) => s + v * v, 0))
    if (Math.sqrt(rss) > 1e-9 * size) continue
    return [
      ...new Set(
        earlier
          .filter(
            (t, k) =>
              t.factor !== term.factor &&
              Math.abs(coefficients[k + 1]!) * Math.max(...t.column.map(Math.abs)) > 1e-9 * size,
          )
          .map(t => t.factor),
      ),
    ]
  }
  return null
}

/** For each level (or the one slope) how its effect is made of the coefficients. */
function weightsOf(factor: string, kept: readonly Term[], trials: readonly Trial[]): [string | null, number[]][] {
  const own = kept.map(t => (t.factor === factor ? 1 : 0))
  if (kept.some(t => t.factor === factor && t.level === null)) return [[null, own]]
  const levels = levelsOf(factor, trials)
  return levels.map((level, i) => [
    level,
    kept.map((t, j) => (i === levels.length - 1 ? -own[j]! : t.factor === factor && t.level === level ? 1 : 0)),
  ])
}

function contrast(
  fit: LinearFit,
  weights: number[],
  residualSd: number | null,
  dof: number,
): Pick<MainEffect, 'effect' | 'interval'> {
  const sum = (of: (j: number) => number) => weights.reduce((s, w, j) => (w === 0 ? s : s + w * of(j)), 0)
  const effect = sum(j => fit.coefficients[j + 1]!)
  if (residualSd === null) return { effect, interval: null }
  const half = tQuantile(0.975, dof) * residualSd * Math.sqrt(sum(j => sum(k => fit.inverse[j + 1]![k + 1]!)))
  return { effect, interval: [effect - half, effect + half] }
}
