import { describe, expect, it } from 'vitest'
import { coverageOf } from '../fixtures/coverage'
import { noiseOf, withNoise } from '../signal/noise'
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

describe('a stated uncertainty holds the truth', () => {
  // Seeded records with errors drawn from the sensors’ sheets; the bench draws four hundred of each kind.
  it.each([
    ['burst', 0.01],
    ['descent', 0.01],
    ['drop', 0.01],
    ['pull', 0.0002],
    ['torque', 0.0002],
  ])('%s, noise of %d of the range', (family, share) => {
    for (const c of coverageOf(family, { share, phi: 0 }, 60)) {
      expect(c.none, `${c.family} ${c.key}`).toBe(0)
      expect(c.covered, `${c.family} ${c.key}`).toBeGreaterThanOrEqual(0.88)
      expect(c.width, `${c.family} ${c.key}`).toBeLessThan(4)
      expect(c.falsePasses, `${c.family} ${c.key}`).toBeLessThanOrEqual(0.05)
    }
  })
})
