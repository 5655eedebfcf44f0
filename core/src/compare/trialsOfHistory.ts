import type { HistoryRevision } from './factorHistory'

export interface TrialsOfHistory {
  factors: { name: string; low: string; high: string }[]
  trials: { levels: string; response: number }[]
  /** Revisions whose result is only a bound, or that have none. */
  without: string[]
}

const MOST_FACTORS = 7

/**
 * An article's revisions as trials of a two-level design: where two to seven factors changed, each between two values.
 * Null where they are not that. Only exact results count: a bound says nothing of an effect.
 *
 * @param written  a factor's value as people read it
 * @param shown  a response in the unit that it is read in
 */
export function trialsOfHistory(
  revisions: readonly HistoryRevision[],
  written: (factor: string, value: number | string) => string,
  shown: (si: number) => number,
): TrialsOfHistory | null {
  const names = [...new Set(revisions.flatMap(r => Object.keys(r.factors)))]
  const valuesOf = (name: string) => [...new Set(revisions.map(r => r.factors[name]))]
  const changed = names.filter(n => valuesOf(n).length > 1)
  const levels = changed.map(n =>
    valuesOf(n)
      .filter(v => v !== undefined)
      .sort((a, b) => (typeof a === 'number' && typeof b === 'number' ? a - b : 0)),
  )
  if (
    changed.length < 2 ||
    changed.length > MOST_FACTORS ||
    levels.some(l => l.length !== 2) ||
    revisions.some(r => changed.some(n => r.factors[n] === undefined))
  )
    return null
  const exact = (r: HistoryRevision) => r.result?.value != null && r.result.bound === 'exact'
  return {
    factors: changed.map((name, i) => ({
      name,
      low: written(name, levels[i]![0]!),
      high: written(name, levels[i]![1]!),
    })),
    trials: revisions.filter(exact).map(r => ({
      levels: changed.map((n, i) => (r.factors[n] === levels[i]![1] ? '+' : '−')).join(''),
      response: shown(r.result!.value!),
    })),
    without: revisions.filter(r => !exact(r)).map(r => r.label),
  }
}
