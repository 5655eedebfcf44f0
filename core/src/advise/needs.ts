import { decide, lacksUncertainty, type Comparator, type DecisionRule } from '../judge/decide'
import type { Driver, ResultDeclaration } from '../method/results'
import type { Result } from '../method/reduction'
import type { SizingRules } from './made'
import { expanded, predictionsAt, type Sizes, type SizingModel } from './model'

/* What is asked of the next revision: every limit with the wanted room, and nothing worse that is to be kept. */

export interface AdviceLimit {
  id: number
  name: string
  quantity: string
  comparator: Comparator
  value: number
}

export interface Need {
  limit: AdviceLimit
  /** What the article lacks where it is short; null for results that no size bears on. */
  driver: Driver | null
  /**
   * Needed over actual, uncertainty and wanted margin inside: above 1 the article must get better by that much; null
   * where the numbers have no ratio.
   */
  ratio: number | null
  isMet: boolean
  /** Whether a law speaks of it: else a change cannot be sized for it. */
  isSized: boolean
}

/** All that a change is sized from. */
export interface Asked {
  model: SizingModel
  results: Readonly<Record<string, Result>>
  limits: readonly AdviceLimit[]
  declared: Readonly<Record<string, ResultDeclaration>>
  rule: DecisionRule
  rules: SizingRules
}

/** A bound that leaves the limit open says nothing of the size that is needed. */
export const isUndemonstrated = (result: Result | undefined, { comparator, value }: AdviceLimit): boolean =>
  result !== undefined &&
  result.value !== null &&
  result.bound !== 'exact' &&
  // Without an uncertainty by its value: what is sized from it is a proposal, not a verdict.
  decide(result, comparator, value, lacksUncertainty(result) ? 'simple' : 'guarded').verdict === 'undecided'

/** Edges of what a result leaves possible, its expanded uncertainty outside. */
function edges(r: Result): { low: number; high: number } {
  const U = expanded(r)
  if (typeof r.bound === 'object') return { low: r.bound.interval[0] - U, high: r.bound.interval[1] + U }
  return { low: r.bound === 'atMost' ? -Infinity : r.value! - U, high: r.bound === 'atLeast' ? Infinity : r.value! + U }
}

/**
 * Whether a result keeps the limit with the wanted room: a share of what is had under a maximum, of what is asked over
 * a minimum.
 */
export function isWithin(r: Result, { comparator, value }: AdviceLimit, margin: number, base = 0): boolean {
  const { low, high } = edges(r)
  // To twelve digits: a size that meets the limit exactly does.
  const slack = 1e-12 * Math.abs(value)
  return comparator === 'atMost'
    ? high + margin * Math.abs(high - base) <= value + slack
    : low >= value + margin * Math.abs(value - base) - slack
}

export function needsOf({
  model,
  results,
  limits,
  declared,
  rules,
}: Pick<Asked, 'model' | 'results' | 'limits' | 'declared' | 'rules'>): Need[] {
  const sized = new Set(Object.keys(model.at({})))
  return limits.flatMap(limit => {
    const r = results[limit.quantity]
    if (!r || r.value === null) return []
    const base = model.bases[limit.quantity] ?? 0
    const { low, high } = edges(r)
    const [had, wanted] =
      limit.comparator === 'atMost'
        ? [limit.value - base, (high - base) * (1 + rules.wantedMargin)]
        : [low - base, (limit.value - base) * (1 + rules.wantedMargin)]
    return [
      {
        limit,
        driver: declared[limit.quantity]?.driver ?? null,
        ratio: had > 0 && wanted > 0 && Number.isFinite(wanted / had) ? wanted / had : null,
        isMet: isWithin(r, limit, rules.wantedMargin, base),
        isSized: sized.has(limit.quantity),
      },
    ]
  })
}

/**
 * Of each limit whether sizes keep it with the wanted room, and of each result that is to be kept whether they make it
 * worse.
 */
export function keptBy({ model, results, limits, declared, rules }: Asked, sizes: Sizes): boolean[] {
  const predicted = predictionsAt(model, results, sizes)
  const kept = limits.map(
    l =>
      !predicted[l.quantity] || isWithin(predicted[l.quantity]!, l, rules.wantedMargin, model.bases[l.quantity] ?? 0),
  )
  return [
    ...kept,
    ...rules.keep.map(key => {
      const [now, then] = [results[key]?.value, predicted[key]?.value]
      if (now == null || then == null) return true
      const slack = 1e-9 * Math.abs(now)
      return declared[key]?.limited === 'atMost' ? then <= now + slack : then >= now - slack
    }),
  ]
}

export const keepsAll = (asked: Asked, sizes: Sizes): boolean => keptBy(asked, sizes).every(Boolean)

/** The limit nearest to being broken: the least room, as a share of the limit's own size. */
export function bindingOf(
  { model, results, limits }: Pick<Asked, 'model' | 'results' | 'limits'>,
  sizes: Sizes,
): { limit: AdviceLimit; room: number } | null {
  const predicted = predictionsAt(model, results, sizes)
  return limits.reduce<{ limit: AdviceLimit; room: number } | null>((nearest, limit) => {
    const p = predicted[limit.quantity]
    if (!p) return nearest
    const { low, high } = edges(p)
    const span = Math.abs(limit.value - (model.bases[limit.quantity] ?? 0)) || 1
    const room = (limit.comparator === 'atMost' ? limit.value - high : low - limit.value) / span
    return !nearest || room < nearest.room ? { limit, room } : nearest
  }, null)
}
