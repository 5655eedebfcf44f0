import { describe, expect, it } from 'vitest'
import { coveredBy, type Standing } from './standing'

const test = (
  testId: number,
  value: number | null,
  more: Partial<Standing> & { bound?: unknown; u?: number } = {},
) => ({
  testId,
  verdict: 'undecided' as const,
  validity: 'valid' as const,
  ...more,
  result: { value, bound: (more.bound ?? 'exact') as 'exact', ...(more.u ? { u: more.u, k: 2 } : {}) },
})
const bound = test(1, 1.09, { bound: 'atLeast' })

describe('a bound and a retest of one revision', () => {
  it('stand together as what the retest found, whichever way it went', () => {
    expect(coveredBy(bound, [bound, test(2, 12.29, { verdict: 'pass' })])).toBe(2)
    expect(coveredBy(bound, [test(2, 1.2, { verdict: 'fail' })])).toBe(2)
    expect(coveredBy(bound, [test(2, 11, { bound: { interval: [10, 12] }, verdict: 'pass' })])).toBe(2)
  })
  it('do not where the retest contradicts the bound by more than both may be off', () => {
    expect(coveredBy(bound, [test(2, 0.8, { verdict: 'fail' })])).toBeNull()
    expect(coveredBy(bound, [test(2, 1.0, { verdict: 'fail', u: 0.06 })])).toBe(2)
  })
  it('take the decided one before a larger bound, and the newest of those that say alike', () => {
    const larger = test(3, 2, { bound: 'atLeast' })
    expect(coveredBy(bound, [larger])).toBe(3)
    expect(coveredBy(larger, [bound])).toBeNull()
    expect(coveredBy(bound, [test(2, 5, { verdict: 'pass' }), larger])).toBe(2)
    expect(coveredBy(bound, [test(2, 5, { verdict: 'pass' }), test(4, 6, { verdict: 'pass' })])).toBe(4)
  })
  it('leave what was decided, and what is wide, as it is; a test that shows nothing is taken over', () => {
    const others = [test(2, 12, { verdict: 'pass' })]
    expect(coveredBy({ ...bound, verdict: 'fail' }, others)).toBeNull()
    expect(coveredBy(test(1, 1, { u: 3 }), others)).toBeNull()
    expect(coveredBy(test(1, 1, { validity: 'invalid' }), others)).toBe(2)
    expect(coveredBy(bound, [{ ...others[0]!, validity: 'invalid' }])).toBeNull()
    expect(coveredBy(bound, [test(2, null)])).toBeNull()
  })
})
