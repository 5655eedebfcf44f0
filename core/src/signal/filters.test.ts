import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { butterworth } from './butterworth'
import { channelClassSection } from './channelClass'
import { evenInterval, fillGaps } from './evenTime'
import { filterZeroPhase, paddingOf, type Section } from './sections'

const sine = (n: number, rate: number, f: number) =>
  Float64Array.from({ length: n }, (_, i) => Math.sin((2 * Math.PI * f * i) / rate))

/** |H| of a cascade at a frequency. */
function gain(sections: Section[], f: number, rate: number): number {
  const w = (2 * Math.PI * f) / rate
  return sections.reduce((g, { b0, b1, b2, a1, a2 }) => {
    const at = (c0: number, c1: number, c2: number) =>
      Math.hypot(c0 + c1 * Math.cos(w) + c2 * Math.cos(2 * w), c1 * Math.sin(w) + c2 * Math.sin(2 * w))
    return g * (at(b0, b1, b2) / at(1, a1, a2))
  }, 1)
}

describe('Butterworth filter', () => {
  it('is down by √½ at its cutoff, flat before and steep after, for odd and even orders', () => {
    for (const order of [1, 2, 3, 4, 7]) {
      const low = butterworth({ kind: 'low', order, cutoff: 50, sampleRate: 1000 })
      expect(gain(low, 50, 1000)).toBeCloseTo(Math.SQRT1_2, 12)
      expect(gain(low, 0, 1000)).toBeCloseTo(1, 12)
      const high = butterworth({ kind: 'high', order, cutoff: 50, sampleRate: 1000 })
      expect(gain(high, 50, 1000)).toBeCloseTo(Math.SQRT1_2, 12)
      expect(gain(high, 499.9999, 1000)).toBeCloseTo(1, 6)
      const band = butterworth({ kind: 'band', order, cutoff: [40, 90], sampleRate: 1000 })
      expect(band).toHaveLength(order)
      expect(gain(band, 40, 1000)).toBeCloseTo(Math.SQRT1_2, 10)
      expect(gain(band, 90, 1000)).toBeCloseTo(Math.SQRT1_2, 10)
    }
  })

  it('run both ways it does not move a sine in time', () => {
    const rate = 1000
    const x = sine(4000, rate, 5)
    const y = filterZeroPhase(butterworth({ kind: 'low', order: 4, cutoff: 60, sampleRate: rate }), x)
    for (let i = 500; i < 3500; i += 97) expect(y[i]).toBeCloseTo(x[i]!, 6)
  })

  it('is linear, and leaves a constant as it is', () => {
    const sections = butterworth({ kind: 'low', order: 3, cutoff: 20, sampleRate: 200 })
    const record = fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: 30, maxLength: 80 })
    fc.assert(
      fc.property(record, fc.double({ min: -5, max: 5, noNaN: true }), (values, a) => {
        const x = Float64Array.from(values)
        const y = Float64Array.from(values, (_, i) => Math.cos(i))
        const sum = filterZeroPhase(
          sections,
          x.map((v, i) => a * v + y[i]!),
        )
        const [fx, fy] = [filterZeroPhase(sections, x), filterZeroPhase(sections, y)]
        return sum.every((v, i) => Math.abs(v - (a * fx[i]! + fy[i]!)) < 1e-9 * (1 + Math.abs(v)) * 1e3)
      }),
    )
    expect(
      Math.max(...filterZeroPhase(sections, new Float64Array(100).fill(7)).map(v => Math.abs(v - 7))),
    ).toBeLessThan(1e-12)
  })

  it('extends by three times the cascade’s length, less what is zero', () => {
    expect(paddingOf(butterworth({ kind: 'low', order: 4, cutoff: 5, sampleRate: 100 }))).toBe(15)
    expect(paddingOf(butterworth({ kind: 'low', order: 3, cutoff: 5, sampleRate: 100 }))).toBe(12)
    expect(paddingOf([channelClassSection(60, 1e-4)])).toBe(9)
  })

  it('refuses a cutoff at half the sample rate, a turned band, and a class that the rate cannot carry', () => {
    expect(() => butterworth({ kind: 'low', order: 4, cutoff: 50, sampleRate: 100 })).toThrow(/half the sample rate/)
    expect(() => butterworth({ kind: 'band', order: 4, cutoff: [20, 10], sampleRate: 100 })).toThrow(/begin below/)
    expect(() => channelClassSection(1000, 1 / 4155)).toThrow(/too few for class 1000/)
  })
})

describe('channel frequency class', () => {
  it('has its 3 dB point at 1.65 times the class, both ways together', () => {
    const section = channelClassSection(60, 1e-4)
    // SAE J211: 100 Hz for class 60 at −4 dB and more; two passes of the two-pole filter at 2.0775·CFC·0.802.
    expect(gain([section], 60 * 2.0775, 1e4) ** 2).toBeCloseTo(0.5, 3)
    expect(gain([section], 1, 1e4)).toBeCloseTo(1, 6)
  })
})

describe('even time base', () => {
  it('refuses an interval that is off by more than a fifth, and fills gaps of at most three', () => {
    expect(evenInterval(Float64Array.from([0, 1, 2.1, 3]))).toBe(1)
    expect(() => evenInterval(Float64Array.from([0, 1, 2, 3.5, 4.5]))).toThrow(/even time base/)
    const short = fillGaps(Float64Array.from([0, NaN, NaN, NaN, 4]), 'a', true)
    expect(short).toEqual({ y: Float64Array.from([0, 1, 2, 3, 4]), filled: true })
    const long = Float64Array.from([0, NaN, NaN, NaN, NaN, 4, NaN, 6])
    expect(() => fillGaps(long, 'a', true)).toThrow(/gap of 4/)
    expect(() => fillGaps(Float64Array.from([NaN, 1]), 'a', true)).toThrow(/gap of 1/)
    // Where it may be missing, what is short is filled and what is long stays.
    expect(fillGaps(long, 'a', false)).toEqual({
      y: Float64Array.from([0, NaN, NaN, NaN, NaN, 4, 5, 6]),
      filled: true,
    })
  })
})
