import { describe, expect, it } from 'vitest'
import { families } from '../registry/methods'
import { setOf, spreadOf, trendOf } from './specimens'
import { unlikeZeros, zeroOf } from './zeros'

const exact = (values: number[]) => values.map(value => ({ value, bound: 'exact' as const }))

describe('zeros of what is compared', () => {
  const zero = (settings: object) => zeroOf(families['static'], settings as Record<string, unknown>)

  it('are alike, or the difference is said', () => {
    const both = zero({ zeroStart: [0, 1], zeroEnd: [8, 9] })
    const members = [
      { name: 'R1', zero: both },
      { name: 'R2', zero: zero({ zeroStart: [3, 4] }) },
    ]
    expect(unlikeZeros(members)).toBe('Zeros were not taken alike: at the start and the end (R1); at the start (R2).')
    expect(unlikeZeros([members[0]!, { name: 'R3', zero: both }])).toBeNull()
    expect(unlikeZeros([members[0]!, { name: 'R4', zero: zero({}) }])).toContain('nowhere (R4)')
  })

  it('are not spoken of where a kind of test takes none', () => {
    expect(zeroOf(families['flow'], {})).toBeNull()
  })
})

describe('specimens of one article', () => {
  it('claim the B-basis by the tabled factor: five bags around 120 kPa', () => {
    const s = spreadOf(exact([118, 119, 120, 121, 122]))!
    // s = √2.5; k_B(5) = 3.407 (NBS Handbook 91, table A-7).
    expect(s.mean).toBeCloseTo(120, 9)
    expect(s.claim).toBeCloseTo(120 - 3.407 * Math.sqrt(2.5), 2)
  })

  it('need so many more until the claim meets the wall', () => {
    // Two give k 20.581, three 6.155, four 4.162: with s = 1 and a wall 5 below the mean, four do.
    const s = spreadOf(exact([100 - Math.SQRT1_2, 100 + Math.SQRT1_2]), { wall: { value: 95, comparator: 'atLeast' } })!
    expect(s.sd).toBeCloseTo(1, 9)
    expect(s.more).toBe(2)
    expect(spreadOf(exact([90, 110]), { wall: { value: 99, comparator: 'atLeast' } })!.more).toBeNull()
  })

  it('that did not fail lift the mean above the plain one; alone they tell no spread', () => {
    const held = spreadOf([...exact([10, 11, 12]), { value: 12, bound: 'atLeast' }])!
    expect(held.isCensored).toBe(true)
    expect(held.mean).toBeGreaterThan((10 + 11 + 12 + 12) / 4)
    expect(
      spreadOf([
        { value: 12, bound: 'atLeast' },
        { value: 13, bound: 'atLeast' },
      ])!.claim,
    ).toBeNull()
  })

  it('that wear are retired where the lower edge of the band meets the working load', () => {
    const wear = [0, 0.1, 0.2, 0.3, 0.4]
    const strength = [40.2, 38.1, 35.7, 34.3, 31.7]
    const t = trendOf(wear, strength, { value: 30, comparator: 'atLeast' })!
    // By hand: mean 36, Sxy = −2.08, Sxx = 0.1; residuals 0.04, 0.02, −0.3, 0.38, −0.14, squares 0.2560; t(0.975, 3) =
    // 3.18245.
    expect(t.slope).toBeCloseTo(-20.8, 9)
    expect(t.intercept).toBeCloseTo(40.16, 9)
    const lower = (x: number) =>
      40.16 - 20.8 * x - 3.18245 * Math.sqrt(0.256 / 3) * Math.sqrt(1 + 1 / 5 + (x - 0.2) ** 2 / 0.1)
    expect(lower(t.meets!)).toBeCloseTo(30, 4)
    expect(t.meets).toBeLessThan((40.16 - 30) / 20.8)
    expect(trendOf(wear, strength, { value: 50, comparator: 'atLeast' })!.meets).toBeNull()
  })

  it('count where they are of one set-up, came to their end, and are not the same article again', () => {
    const member = (id: number, over: Partial<Parameters<typeof setOf>[0][number]> = {}) => ({
      id,
      result: { value: 10 + id, bound: 'exact' as const },
      invalid: false,
      setUp: 'two grips, crosshead',
      isAgain: false,
      ...over,
    })
    const members = [
      member(1),
      member(2),
      // A leak test that stopped at a third of it is no burst.
      member(3, { result: { value: 4, bound: 'atLeast' } }),
      member(4, { setUp: 'one pulley' }),
      member(5, { isAgain: true }),
      member(6, { invalid: true }),
      member(7, { result: undefined }),
      member(8, { setUp: '' }),
    ]
    const { counted, leftOut } = setOf(members, 1)
    expect(counted.map(m => m.id)).toEqual([1, 2, 8])
    expect(leftOut.map(([m, why]) => `${m.id} ${why}`)).toEqual([
      '3 ended before it failed: a lower bound',
      '4 set up otherwise: one pulley',
      '5 the same article once more',
      '6 shows nothing',
      '7 has no value',
    ])
    expect(setOf(members, 4).counted.map(m => m.id)).toEqual([4, 8])
    expect(spreadOf(counted.map(m => ({ value: m.result!.value!, bound: m.result!.bound })))!.mean).toBeCloseTo(
      (11 + 12 + 18) / 3,
      9,
    )
  })
})
