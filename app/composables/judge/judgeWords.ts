import { CAUSES, contradicts, type Cause, type Result, type Validity, type Verdict } from '@hypomet/core'

export const VALIDITY_WORDS: { value: Validity; label: string }[] = [
  { value: 'valid', label: 'Yes' },
  { value: 'valid-with-remarks', label: 'Yes, with remarks' },
  { value: 'invalid', label: 'Invalid' },
]

const WORDS: Record<Cause, string> = {
  none: 'No failure',
  article: 'The article',
  fixture: 'The fixture',
  instrumentation: 'Instrumentation',
  procedure: 'Procedure',
  manufacture: 'Manufacture',
}
export const CAUSE_WORDS = CAUSES.map(value => ({ value, label: WORDS[value] }))

/** Worst first: what failed, what is open, what passed; within each by the room that is left. */
export function worstFirst<J extends { decision: { verdict: Verdict; room: number | null }; limit: { value: number } }>(
  judged: readonly J[],
): J[] {
  const rank: Record<Verdict, number> = { fail: 0, undecided: 1, pass: 2 }
  const share = (j: J) => (j.decision.room === null ? Infinity : j.decision.room / (Math.abs(j.limit.value) || 1))
  return judged.toSorted((a, b) => rank[a.decision.verdict] - rank[b.decision.verdict] || share(a) - share(b))
}

export interface Foretold {
  value: number
  u: number
  k: number
  bound: Result['bound']
}

/**
 * Measured against predicted: inside the band that was claimed, or by how much beyond it; of a bound what share it
 * reached, and whether that contradicts the band.
 */
export function againstPrediction(result: Pick<Result, 'value' | 'bound' | 'u' | 'k'> | null, p: Foretold): string {
  if (!result || result.value === null || p.value === 0) return ''
  const ratio = result.value / p.value
  if (result.bound !== 'exact')
    return (
      `reached ${Math.round(100 * ratio)} % of the prediction` +
      (p.u > 0 && contradicts(result, p.value, p.u * p.k) ? ', beyond its band: a miss' : '')
    )
  const off = `${ratio >= 1 ? '+' : '−'}${Math.abs(100 * (ratio - 1)).toFixed(1)} %`
  const band = p.u * p.k
  if (band === 0) return `measured ${off}, no band was claimed`
  const beyond = Math.abs(result.value - p.value) - band
  return beyond <= 0
    ? `measured ${off}, inside its band`
    : `measured ${off}, beyond its band by ${((100 * beyond) / Math.abs(p.value)).toFixed(1)} %`
}

export const conformityWords = (p: number | null): string =>
  p === null
    ? ''
    : p > 0.999
      ? 'Over 99.9 % likely within the limit.'
      : p < 0.001
        ? 'Under 0.1 % likely within the limit.'
        : `${(100 * p).toFixed(p > 0.99 || p < 0.01 ? 1 : 0)} % likely within the limit.`

/** What became of a foretold place, or mode; nothing where one of both was not said. */
export const placeWords = (isRight: boolean | null): string =>
  isRight === null ? '' : isRight ? 'as foretold' : 'elsewhere'
export const modeWords = (isRight: boolean | null): string =>
  isRight === null ? '' : isRight ? 'as foretold' : 'another way'
