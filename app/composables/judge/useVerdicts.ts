import {
  CONVENTIONS,
  decide,
  factorOfSafety,
  isCounted,
  marginOfSafety,
  reserveFactor,
  underCause,
  underValidity,
  type Cause,
  type Convention,
  type Decision,
  type Kind,
  type Result,
  type Validity,
} from '@hypomet/core'
import type { LimitRow } from '~/types/api'

export interface JudgedLimit {
  limit: LimitRow
  kind: Kind
  result: Result | null
  decision: Decision
  /** As the limit or the campaign writes it, and the others. */
  margin: string
  otherMargin: string
}

/**
 * Each limit of the article against the test's newest reduction, by the campaign's rule and under the standing
 * judgement, or
 * under one that somebody is about to sign.
 */
export function useVerdicts(draft?: { validity: Validity; cause: Cause }) {
  const { page, resultKind, outline } = useTest()
  const results = computed(() =>
    underCause(
      page.value.reductions[0]?.output.results ?? {},
      draft ? draft.cause : (page.value.judgement?.cause ?? null),
      outline.value.results,
    ),
  )
  const validity = computed(
    () =>
      draft?.validity ??
      (page.value.judgement && page.value.judgement.reductionId === page.value.reductions[0]?.id
        ? page.value.judgement.validity
        : null),
  )
  const judged = computed<JudgedLimit[]>(() =>
    page.value.limits
      .filter(l => results.value[l.quantity] !== undefined)
      .map(limit => {
        const result = results.value[limit.quantity]!
        const decision = underValidity(
          decide(
            result,
            limit.comparator,
            limit.value,
            page.value.campaign.rule,
            isCounted(outline.value.results[limit.quantity]),
          ),
          validity.value,
        )
        return {
          limit,
          kind: resultKind(limit.quantity),
          result,
          decision,
          ...marginTexts(limit, result, page.value.campaign.convention),
        }
      }),
  )
  /** Limits on results that this test did not give. */
  const unanswered = computed(() => page.value.limits.filter(l => results.value[l.quantity] === undefined))
  return { judged, unanswered, results }
}

/**
 * “MS +0.12”, “RF 1.12”, “FoS 1.68 of 1.5 asked”: under the limit's or the campaign's convention, and the other two.
 */
export function marginTexts(
  limit: Pick<LimitRow, 'comparator' | 'value' | 'factor' | 'convention'>,
  result: Pick<Result, 'value' | 'bound'> | null,
  convention: Convention,
): { margin: string; otherMargin: string } {
  if (!result || result.value === null) return { margin: '', otherMargin: '' }
  // A lower bound of what is had is one of the margin; of what must stay small an upper one.
  const bound =
    result.bound === 'exact' || typeof result.bound === 'object'
      ? 0
      : (result.bound === 'atLeast' ? 1 : -1) * (limit.comparator === 'atLeast' ? 1 : -1)
  const sign = bound > 0 ? '≥ ' : bound < 0 ? '≤ ' : ''
  const ms = marginOfSafety(result.value, limit.comparator, limit.value)
  const fos = factorOfSafety(result.value, limit.comparator, limit.value, limit.factor)
  const texts: Record<Convention, string> = {
    'margin-of-safety': `MS ${sign}${ms >= 0 ? '+' : '−'}${Math.abs(ms).toFixed(2)}`,
    'reserve-factor': `RF ${sign}${reserveFactor(result.value, limit.comparator, limit.value).toFixed(2)}`,
    'factor-of-safety': `FoS ${sign}${fos.toFixed(2)} of ${limit.factor} asked`,
  }
  const shown = limit.convention || convention
  return {
    margin: texts[shown],
    otherMargin: CONVENTIONS.filter(c => c !== shown)
      .map(c => texts[c])
      .join(' · '),
  }
}
