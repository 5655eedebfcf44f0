import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decide } from './decide'
import { whatDecides } from './whatDecides'

const exact = (value: number, u: number, parts?: { name: string; u: number }[]) => ({
  value,
  u,
  k: 2,
  bound: 'exact' as const,
  ...(parts ? { parts } : {}),
})

describe('what would decide', () => {
  it('an uncertainty that reaches across: how small it must be, and what most of it is', () => {
    const parts = [
      { name: 'zero drift', u: 0.0716 },
      { name: 'scatter', u: 0.0458 },
    ]
    const [found] = whatDecides(exact(4.9, 0.085, parts), 'atMost', 5, 'guarded')
    expect(found).toMatchObject({ kind: 'narrow', then: 'pass', part: { name: 'zero drift' }, repeats: null })
    expect(found).toMatchObject({ from: expect.closeTo(0.17, 9), to: expect.closeTo(0.1, 9) })
    expect((found as { part: { share: number } }).part.share).toBeCloseTo(0.71, 2)
  })

  it('so many runs where it is scatter: with them it is decided, with one less it is not', () => {
    const parts = [
      { name: 'certificate', u: 0.01 },
      { name: 'scatter', u: 0.1 },
    ]
    const [found] = whatDecides(exact(4.9, Math.hypot(0.1, 0.01), parts), 'atMost', 5, 'guarded')
    const { repeats } = found as { repeats: number }
    const after = (n: number) =>
      decide(exact(4.9, Math.hypot(0.1 / Math.sqrt(n), 0.01)), 'atMost', 5, 'guarded').verdict
    expect([after(repeats - 1), after(repeats)]).toEqual(['undecided', 'pass'])
  })

  it('a bound: a run past the limit with its uncertainty, or to the end', () => {
    expect(whatDecides({ ...exact(4, 0.05), bound: 'atLeast' }, 'atLeast', 4.8, 'guarded')).toEqual([
      { kind: 'further', to: expect.closeTo(4.9, 9) },
    ])
    expect(whatDecides({ ...exact(4, 0.05), bound: 'atLeast' }, 'atMost', 4.8, 'guarded')).toEqual([{ kind: 'end' }])
  })

  it('no uncertainty, no value, no test, an interval', () => {
    const bare = { value: 4, bound: 'exact' as const }
    expect(whatDecides(bare, 'atMost', 5, 'guarded')).toEqual([{ kind: 'uncertainty' }])
    expect(whatDecides(bare, 'atMost', 5, 'guarded', { isCounted: true })).toEqual([])
    expect(whatDecides({ value: null, bound: 'exact' }, 'atMost', 5, 'simple')).toEqual([
      { kind: 'again', why: 'no-value' },
    ])
    expect(whatDecides(bare, 'atMost', 5, 'simple', { validity: 'invalid' })).toEqual([
      { kind: 'again', why: 'invalid' },
    ])
    const interval = { value: 4, bound: { interval: [3, 6] as [number, number] } }
    const steps = { kind: 'steps', from: 3, to: 2 }
    expect(whatDecides({ ...interval, u: 0.1 }, 'atLeast', 5, 'guarded')).toEqual([steps])
    expect(whatDecides(interval, 'atLeast', 5, 'guarded')).toEqual([{ kind: 'uncertainty' }, steps])
    expect(whatDecides(interval, 'atLeast', 2, 'guarded')).toEqual([{ kind: 'uncertainty' }])
  })

  it('is said of what is undecided, and of nothing else; and what it asks for does decide', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 10, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.constantFrom('atLeast' as const, 'atMost' as const),
        fc.constantFrom('exact' as const, 'atLeast' as const, 'atMost' as const),
        (value, u, comparator, bound) => {
          const result = { value, u, k: 2, bound }
          const said = whatDecides(result, comparator, 5, 'guarded')
          expect(said.length > 0).toBe(decide(result, comparator, 5, 'guarded').verdict === 'undecided')
          const [first] = said
          if (first?.kind === 'narrow') {
            const narrowed = { ...result, u: (0.999 * first.to) / 2 }
            expect(decide(narrowed, comparator, 5, 'guarded').verdict).toBe(first.then)
          }
          if (first?.kind === 'further') {
            const beyond = comparator === 'atLeast' ? first.to + 1e-9 : first.to - 1e-9
            expect(decide({ ...result, value: beyond }, comparator, 5, 'guarded').verdict).toBe('pass')
          }
        },
      ),
    )
  })
})
