import type { Result } from '../method/reduction'
import { fitMainEffects, type MainEffectsFit } from '../statistics/mainEffects'

export interface HistoryRevision {
  id: number
  label: string
  parentId: number | null
  /** What each factor was: a number in SI, or a word. */
  factors: Readonly<Record<string, number | string>>
  result: Pick<Result, 'value' | 'bound' | 'u' | 'k'> | null
}

export interface HistoryStep {
  from: { id: number; label: string }
  to: { id: number; label: string }
  changes: { factor: string; from: number | string | null; to: number | string | null }[]
  /** Result after less before, SI; null where one of them is missing. */
  effect: number | null
  /** Expanded uncertainty of that difference; null where none is known. */
  U: number | null
  /** Beyond its uncertainty: yes or no; `open` where a result is only a bound or its uncertainty is not known. */
  moved: 'yes' | 'no' | 'open' | null
}

export interface FactorSummary {
  factor: string
  /** Steps in which it was the only one that changed. */
  alone: HistoryStep[]
  /** Factors that changed in every step in which it did: their effects cannot be told apart. */
  togetherWith: string[]
  changes: number
}

export interface FactorHistory {
  steps: HistoryStep[]
  factors: FactorSummary[]
  /** Main effects over all revisions with an exact result, where there are more of them than effects. */
  fit: MainEffectsFit | null
}

/**
 * Which factor moved a result: each revision against the one it follows. A factor that changed alone shows its effect;
 * of those that always changed together none can be blamed, and that is said.
 *
 * @source Box, Hunter & Hunter, Statistics for Experimenters, ch. 5 (one factor at a time, confounding)
 */
export function factorHistory(revisions: readonly HistoryRevision[]): FactorHistory {
  const steps = revisions.flatMap(to => {
    const from = revisions.find(r => r.id === to.parentId)
    return from ? [stepBetween(from, to)] : []
  })
  const changed = [...new Set(steps.flatMap(s => s.changes.map(c => c.factor)))]
  return { steps, factors: changed.map(f => summaryOf(f, steps)), fit: mainEffects(changed, revisions) }
}

/** What differs between two revisions, and by how much the result does. */
export function stepBetween(from: HistoryRevision, to: HistoryRevision): HistoryStep {
  const names = [...new Set([...Object.keys(from.factors), ...Object.keys(to.factors)])]
  const changes = names
    .filter(n => from.factors[n] !== to.factors[n])
    .map(factor => ({ factor, from: from.factors[factor] ?? null, to: to.factors[factor] ?? null }))
  return {
    from: { id: from.id, label: from.label },
    to: { id: to.id, label: to.label },
    changes,
    ...differenceOf(from.result, to.result),
  }
}

/** One result against another, and whether they differ beyond what both leave open. */
export function differenceOf(
  a: HistoryRevision['result'] | undefined,
  b: HistoryRevision['result'] | undefined,
): Pick<HistoryStep, 'effect' | 'U' | 'moved'> {
  if (a?.value == null || b?.value == null) return { effect: null, U: null, moved: null }
  const effect = b.value - a.value
  const U = a.u === undefined || b.u === undefined ? null : Math.hypot(a.u * (a.k ?? 2), b.u * (b.k ?? 2))
  if (a.bound !== 'exact' || b.bound !== 'exact' || U === null) return { effect, U, moved: 'open' }
  return { effect, U, moved: Math.abs(effect) > U ? 'yes' : 'no' }
}

function summaryOf(factor: string, steps: readonly HistoryStep[]): FactorSummary {
  const mine = steps.filter(s => s.changes.some(c => c.factor === factor))
  const others = [...new Set(mine.flatMap(s => s.changes.map(c => c.factor)))].filter(f => f !== factor)
  return {
    factor,
    changes: mine.length,
    alone: mine.filter(s => s.changes.length === 1),
    togetherWith: others.filter(o => mine.every(s => s.changes.some(c => c.factor === o))),
  }
}

function mainEffects(factors: readonly string[], revisions: readonly HistoryRevision[]): MainEffectsFit | null {
  const trials = revisions.flatMap(r =>
    r.result?.value != null && r.result.bound === 'exact' && factors.every(f => r.factors[f] !== undefined)
      ? [{ settings: r.factors, response: r.result.value }]
      : [],
  )
  // Levels of words cost an effect each, less one; fewer trials than effects tell nothing.
  const effects = factors.reduce(
    (sum, f) =>
      sum +
      (trials.every(t => typeof t.settings[f] === 'number') ? 1 : new Set(trials.map(t => t.settings[f])).size - 1),
    0,
  )
  return trials.length > effects + 1 && effects > 0 ? fitMainEffects(factors, trials) : null
}
