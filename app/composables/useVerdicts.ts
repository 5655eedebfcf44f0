import { decide, marginOfSafety, reserveFactor, underValidity, type Decision, type Kind, type Result } from '@hypomet/core'
import type { LimitRow } from '~/types/api'

export interface JudgedLimit {
  limit: LimitRow
  kind: Kind
  result: Result | null
  decision: Decision
  /** Margin of safety or reserve factor, as the campaign writes it, and the other one. */
  margin: string
  otherMargin: string
}

/** Each limit of the article against the test's newest reduction, by the campaign's rule and under the standing judgement. */
export function useVerdicts() {
  const { page, resultKind } = useTest()
  const results = computed(() => page.value.reductions[0]?.output.results ?? {})
  const validity = computed(() => (page.value.judgement && page.value.judgement.reductionId === page.value.reductions[0]?.id ? page.value.judgement.validity : null))
  const judged = computed<JudgedLimit[]>(() => page.value.limits.map(limit => {
    const result = results.value[limit.quantity] ?? null
    const decision = underValidity(decide(result ?? { value: null, bound: 'exact' }, limit.comparator, limit.value, page.value.campaign.rule), validity.value)
    return { limit, kind: resultKind(limit.quantity), result, decision, ...marginTexts(limit, result, page.value.campaign.convention) }
  }))
  return { judged, results }
}

function marginTexts(limit: LimitRow, result: Result | null, convention: 'margin-of-safety' | 'reserve-factor'): { margin: string; otherMargin: string } {
  if (!result || result.value === null) return { margin: '', otherMargin: '' }
  const sign = result.bound === 'atLeast' ? '≥ ' : result.bound === 'atMost' ? '≤ ' : ''
  const ms = marginOfSafety(result.value, limit.comparator, limit.value)
  const texts = [`MS ${sign}${ms >= 0 ? '+' : '−'}${Math.abs(ms).toFixed(2)}`, `RF ${sign}${reserveFactor(result.value, limit.comparator, limit.value).toFixed(2)}`] as const
  return convention === 'margin-of-safety' ? { margin: texts[0], otherMargin: texts[1] } : { margin: texts[1], otherMargin: texts[0] }
}
