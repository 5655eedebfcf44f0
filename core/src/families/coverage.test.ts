import { describe, expect, it } from 'vitest'
import { coverageOf } from '../fixtures/coverage'
import { shownThrough, trueHalfWidth } from './vibration/resolution'
import { calmed, noiseOf, withNoise } from '../signal/noise'
import { effectiveCount } from '../statistics/effectiveCount'
import { SeededRandom } from '../statistics/random'

describe('scatter of a record', () => {
  it.each([
    [0, 0.02, 0.02],
    [0.5, 0.05, 0.05],
    // In windows of 64 readings slow noise is half hidden: what is put back is good to a fifth.
    [0.9, 0.2, 0.06],
  ])('is told beside ramps and steps, as loud and as slow as it is: %d', (phi, sigmaWithin, phiWithin) => {
    const random = new SeededRandom(7)
    const shape = Float64Array.from({ length: 8000 }, (_, i) => 40 * Math.floor(i / 900) + 0.02 * i)
    const found = noiseOf(withNoise(shape, { sigma: 3, phi }, 1, random))
    expect(Math.abs(found.sigma / 3 - 1)).toBeLessThan(sigmaWithin + 0.03)
    expect(Math.abs(found.phi - phi)).toBeLessThan(phiWithin)
  })

  it('is not what swings: a pendulum in the record is no noise', () => {
    const random = new SeededRandom(3)
    const swing = Float64Array.from({ length: 3000 }, (_, i) => 200 * Math.sin(i / 4))
    const found = noiseOf(withNoise(swing, { sigma: 1, phi: 0 }, 1, random))
    expect(found.sigma).toBeLessThan(8)
    expect(found.phi).toBe(0)
  })

  it('of few readings, or of a silent channel, is nothing', () => {
    expect(noiseOf(Float64Array.of(1, 2, 4))).toEqual({ sigma: 0, phi: 0 })
    expect(noiseOf(new Float64Array(5000))).toEqual({ sigma: 0, phi: 0 })
  })
})

describe('a calmer record', () => {
  it('has less noise where it is straight, and keeps its steps, its gaps and its ends', () => {
    const random = new SeededRandom(5)
    const shape = Float64Array.from({ length: 2000 }, (_, i) => (i < 1000 ? 0.3 * i : 900 - 0.1 * i))
    const noisy = withNoise(shape, { sigma: 2, phi: 0 }, 1, random)
    noisy[500] = NaN
    const { y, share } = calmed(noisy, { sigma: 2, phi: 0 })
    const off = (from: number, to: number) => {
      const e = [...y.subarray(from, to)].map((v, i) => v - shape[from + i]!)
      return Math.sqrt(e.reduce((s, v) => s + v * v, 0) / e.length)
    }
    expect(share).toBeGreaterThan(0.9)
    expect(off(100, 400)).toBeLessThan(0.8)
    expect(off(1600, 2000)).toBeLessThan(0.9)
    expect(Math.abs(y[999]! - shape[999]!)).toBeLessThan(8)
    expect(Math.abs(y[1000]! - shape[1000]!)).toBeLessThan(8)
    expect(y[500]).toBeNaN()
  })

  it.each([0, 0.5, 0.9])('is worth so many independent readings: correlation %d', phi => {
    const e = withNoise(new Float64Array(20_000), { sigma: 1, phi }, 1, new SeededRandom(2))
    const expected = (20_000 * (1 - phi)) / (1 + phi)
    expect(Math.abs(effectiveCount(e) / expected - 1)).toBeLessThan(0.15)
  })
})

describe('segments of a spectrum', () => {
  it.each([0.3, 1, 3, 10])('widen a resonance of half width %d bins, and what they added is found again', half => {
    const shown = [0, 0.25, 0.5].map(offset => shownThrough(half, offset)!)
    for (const { half: read, height } of shown) {
      expect(read).toBeGreaterThan(half)
      expect(height).toBeLessThan(1)
      const behind = trueHalfWidth(read)!
      expect(Math.abs(behind.half - half)).toBeLessThan(4 * behind.u + 0.02 * half)
    }
  })

  it('say nothing of a resonance that is narrower than their own window', () => {
    expect(trueHalfWidth(0.5)).toBeNull()
  })

  it('hold frequency, damping and amplitude of a resonance that a filter gave', () => {
    for (const c of coverageOf('vibration', { share: 0.0002, phi: 0 }, 12))
      expect([c.key, c.covered]).toEqual([c.key, 1])
  })
})

describe('a stated uncertainty holds the truth', () => {
  // Seeded records with errors drawn from the sensors’ sheets; the bench draws four hundred of each kind.
  it.each<[string, number, number?]>([
    ['burst', 0.01],
    ['descent', 0.01],
    ['drop', 0.01],
    ['pull', 0.0002],
    ['torque', 0.0002],
    ['torque', 0.01],
    ['flow', 0.01],
    ['coupon', 0.01],
    ['transducer', 0.01, 32],
    ['bar', 0.01, 40],
  ])('%s, noise of %d of the range', (family, share, records = 60) => {
    for (const c of coverageOf(family, { share, phi: 0 }, records)) {
      expect(c.none, `${c.family} ${c.key}`).toBe(0)
      expect(c.covered, `${c.family} ${c.key}`).toBeGreaterThanOrEqual(0.88)
      expect(c.width, `${c.family} ${c.key}`).toBeLessThan(4)
      expect(c.falsePasses, `${c.family} ${c.key}`).toBeLessThanOrEqual(0.05)
    }
  })
})
