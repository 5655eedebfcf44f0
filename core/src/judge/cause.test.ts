import { describe, expect, it } from 'vitest'
import {
  checkAnswers,
  decide,
  families,
  isHypometError,
  QUESTIONS,
  spreadOf,
  underCause,
  type Answer,
  type Result,
} from '../index'

const result = (value: number, bound: Result['bound'] = 'exact'): Result => ({ value, unit: 'N', bound, u: 10, k: 2 })

describe('a cause that is not the article', () => {
  const declared = families['pull']!.results

  it('makes strength a lower bound in verdicts and statistics, and leaves stiffness alone', () => {
    const results = { peakForce: result(30e3), stiffness: result(4e5) }
    expect(decide(results.peakForce, 'atLeast', 32.5e3, 'guarded').verdict).toBe('fail')
    const stand = underCause(results, 'fixture', declared)
    expect(stand['peakForce']!.bound).toBe('atLeast')
    expect(stand['stiffness']!.bound).toBe('exact')
    expect(decide(stand['peakForce']!, 'atLeast', 32.5e3, 'guarded').verdict).toBe('undecided')
    // As a censored value it lifts the mean above the plain one.
    const others = [40e3, 41e3, 42e3].map(v => result(v))
    expect(spreadOf([...others, stand['peakForce']!].map(r => ({ value: r.value!, bound: r.bound })))!.isCensored).toBe(
      true,
    )
    expect(underCause(results, 'article', declared)).toEqual(results)
    expect(underCause(results, 'manufacture', declared)).toEqual(results)
  })

  it('of an interval keeps the lower end', () => {
    expect(
      underCause({ peakForce: result(28e3, { interval: [27e3, 29e3] }) }, 'procedure', declared)['peakForce'],
    ).toMatchObject({ value: 27e3, bound: 'atLeast' })
  })
})

describe('validity', () => {
  const answers = (over: Partial<Record<string, Answer>> = {}) => ({
    ...Object.fromEntries(QUESTIONS.map(q => [q.key, { says: 'yes', note: '' } satisfies Answer])),
    ...over,
  })
  const code = (run: () => void) => {
    try {
      run()
      return null
    } catch (e) {
      return isHypometError(e) ? [e.code, e.place.path] : e
    }
  }

  it('wants every question answered, a no with its reason, and no clean test with a no', () => {
    expect(code(() => checkAnswers(answers(), 'valid'))).toBeNull()
    expect(code(() => checkAnswers(answers({ record: undefined }), 'valid'))).toEqual([
      'missing-setting',
      'answers.record',
    ])
    expect(code(() => checkAnswers(answers({ planned: { says: 'no', note: ' ' } }), 'valid-with-remarks'))).toEqual([
      'missing-setting',
      'answers.planned',
    ])
    expect(code(() => checkAnswers(answers({ planned: { says: 'no', note: 'Rung 4 by hand' } }), 'valid'))).toEqual([
      'validity-contradicts',
      'validity',
    ])
    expect(
      code(() => checkAnswers(answers({ planned: { says: 'no', note: 'Rung 4 by hand' } }), 'valid-with-remarks')),
    ).toBeNull()
  })
})
