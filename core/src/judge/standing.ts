import type { Result } from '../method/reduction'
import type { Validity, Verdict } from './decide'

/** One test of a revision against a limit. */
export interface Standing {
  testId: number
  result: Pick<Result, 'value' | 'bound' | 'u' | 'k'> | null
  verdict: Verdict
  validity: Validity | null
}

/**
 * The test of the same revision that says what this one left open: a bound, of a fixture that gave way or a gauge at
 * its end, stands together with a retest as what the retest found; a test that shows nothing as well. Null where none
 * does, or where it contradicts the bound.
 *
 * @param others  tests of the same revision, against the same limit
 * @example ≥ 1.09 and 12.29 stand together as 12.29
 */
export function coveredBy(own: Standing, others: readonly Standing[]): number | null {
  if (own.verdict !== 'undecided' || !(own.validity === 'invalid' || isOneSided(own))) return null
  const saying = others.filter(o => o.testId !== own.testId && o.validity !== 'invalid' && saysMore(o, own))
  const decided = saying.filter(o => o.verdict !== 'undecided')
  return (decided.length > 0 ? decided : saying).reduce<number | null>((m, o) => Math.max(m ?? 0, o.testId), null)
}

const isOneSided = ({ result }: Standing): boolean => result?.bound === 'atLeast' || result?.bound === 'atMost'

function saysMore(other: Standing, own: Standing): boolean {
  if (!other.result || other.result.value === null) return false
  if (own.validity === 'invalid' || !own.result || own.result.value === null) return true
  const side = own.result.bound
  if (other.result.bound === side) {
    const further = other.result.value - own.result.value
    return side === 'atLeast' ? further > 0 : further < 0
  }
  const [low, high] = reach(other)
  const slack = half(own)
  return side === 'atLeast' ? high >= own.result.value - slack : low <= own.result.value + slack
}

const half = ({ result }: Standing): number => (result?.u ?? 0) * (result?.k ?? 2)

function reach(s: Standing): [number, number] {
  const { value, bound } = s.result!
  if (typeof bound === 'object') return bound.interval
  const U = half(s)
  return bound === 'atLeast'
    ? [value! - U, Infinity]
    : bound === 'atMost'
      ? [-Infinity, value! + U]
      : [value! - U, value! + U]
}
