import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import type { Result } from '../method/reduction'

export type Comparator = 'atLeast' | 'atMost'
export type DecisionRule = 'guarded' | 'simple'
export type Verdict = 'pass' | 'undecided' | 'fail'

export interface Decision {
  verdict: Verdict
  /** Expanded uncertainty used; 0 when none is known or the rule is simple. */
  U: number
  /** Room to the limit, positive inside it, SI of the quantity. */
  room: number | null
  /** Chance that the true value is within the limit, for an exact value with an uncertainty; null otherwise. */
  conformity: number | null
  /** One sentence that says why. */
  reason: string
}

/**
 * Decision against one limit. Guarded: pass if the value with its U lies within the limit, fail if it lies beyond it
 * with its U, else undecided. Simple: the value alone. Bounds decide honestly under both: a lower bound can pass a
 * minimum and fail a maximum, never the reverse; an interval decides only where all of it lies on one side. What has no
 * uncertainty is not decided under a guard: nobody knows how far it may be off. An interval holds its U at its ends.
 *
 * @param result  SI value with u, k and bound
 * @param limit  SI
 * @param isCounted  a number of things, or yes or no: it is as it is
 * @source JCGM 106:2012, 8.3 (guarded acceptance) and 7.2 (conformance probability)
 */
export function decide(
  result: Pick<Result, 'value' | 'bound' | 'u' | 'k'>,
  comparator: Comparator,
  limit: number,
  rule: DecisionRule,
  isCounted = false,
): Decision {
  const { value } = result
  if (value === null)
    return { verdict: 'undecided', U: 0, room: null, conformity: null, reason: 'There is no value to judge.' }
  if (rule === 'guarded' && lacksUncertainty(result) && !isCounted)
    return { ...OPEN, room: roomTo(value, comparator, limit) }
  const U = rule === 'guarded' ? expandedBeside(result) : 0
  const inward = comparator === 'atMost' ? 1 : -1
  const room = roomTo(value, comparator, limit)
  const [low, high] = range(result, value)
  // The side of the possible values that lies farthest inside, and farthest outside.
  const [innermost, outermost] = comparator === 'atMost' ? [low, high] : [high, low]
  const passes = inward * (limit - outermost) >= U
  const fails = inward * (limit - innermost) < -U || (U === 0 && inward * (limit - innermost) < 0)
  const verdict = passes ? 'pass' : fails ? 'fail' : 'undecided'
  const conformity =
    result.bound === 'exact' && result.u ? normalCdf((inward * (limit - value)) / result.u, 0, 1) : null
  return { verdict, U, room, conformity, reason: reasonFor(verdict, result, comparator, U, room) }
}

/** Whether nobody said how far a result may be off; for an interval: how far its ends may be. */
export const lacksUncertainty = ({ value, u }: Pick<Result, 'value' | 'u'>): boolean =>
  value !== null && u === undefined

/** Expanded uncertainty that stands beside a value or bound; an interval holds its own within. */
export const expandedBeside = ({ u, k, bound }: Pick<Result, 'u' | 'k' | 'bound'>): number =>
  u === undefined || typeof bound === 'object' ? 0 : u * (k ?? 2)

const OPEN: Omit<Decision, 'room'> = {
  verdict: 'undecided',
  U: 0,
  conformity: null,
  reason:
    'No uncertainty is known of it, and the limit is guarded: name the sensor with its certificate, type how far it ' +
    'may be off, or repeat it.',
}

const roomTo = (value: number, comparator: Comparator, limit: number): number =>
  (comparator === 'atMost' ? 1 : -1) * (limit - value)

export const VALIDITIES = ['valid', 'valid-with-remarks', 'invalid'] as const
export type Validity = (typeof VALIDITIES)[number]

/** An invalid test shows nothing: what it measured stands in the record, what was decided stays open. */
export const underValidity = (decision: Decision, validity: Validity | null): Decision =>
  validity === 'invalid'
    ? { ...decision, verdict: 'undecided', conformity: null, reason: 'The test was judged invalid.' }
    : decision

/** Values that the result leaves possible. */
function range({ bound }: Pick<Result, 'bound'>, value: number): [number, number] {
  if (bound === 'atLeast') return [value, Infinity]
  if (bound === 'atMost') return [-Infinity, value]
  return typeof bound === 'object' ? bound.interval : [value, value]
}

function reasonFor(
  verdict: Verdict,
  { bound }: Pick<Result, 'bound'>,
  comparator: Comparator,
  U: number,
  room: number,
): string {
  const inside = comparator === 'atMost' ? 'below' : 'above'
  const beyond = comparator === 'atMost' ? 'above' : 'below'
  const withU = U > 0 ? ' with its uncertainty' : ''
  if (verdict === 'pass')
    return bound === 'exact'
      ? `The value lies ${inside} the limit${withU}.`
      : `All that the result leaves possible lies ${inside} the limit${withU}.`
  if (verdict === 'fail') return `The value lies ${beyond} the limit${withU}.`
  if (bound === 'atLeast' || bound === 'atMost')
    return (
      `The result is only a ${bound === 'atLeast' ? 'lower' : 'upper'} bound and does not reach past the ` +
      `limit: the true value may lie on either side.`
    )
  if (typeof bound === 'object') return 'The limit lies inside the interval that the readings leave open.'
  return `The value lies ${room >= 0 ? inside : beyond} the limit, but its uncertainty reaches across it.`
}
