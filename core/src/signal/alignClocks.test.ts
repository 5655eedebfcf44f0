import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { SeededRandom } from '../statistics/random'
import { alignClocks } from './alignClocks'

/** A ladder of loads with a bang in it, as a logger of a given rate and clock sees it. */
function seen(rate: number, from: number, to: number, clock: number, scale: number, seed: number) {
  const random = new SeededRandom(seed)
  const t = Float64Array.from({ length: Math.floor((to - from) * rate) }, (_, i) => from + i / rate)
  const y = t.map(
    s =>
      scale * (Math.min(5, Math.floor(s / 20)) + (s > 70 ? 3 * Math.exp(-(s - 70) / 2) : 0) + 0.02 * random.normal()),
  )
  return { t: t.map(s => s - clock), y }
}

describe('two clocks', () => {
  it('are brought together to a sample of the slower, from channels of other units and rates', () => {
    const slow = seen(20, 0, 120, 0, 1000, 1)
    const fast = seen(1000, 30, 100, 4.213, 0.02, 2)
    const { offset, correlation, isAtLimit } = alignClocks(slow, fast, 30)
    expect(Math.abs(offset - 4.213)).toBeLessThan(0.05)
    expect(correlation).toBeGreaterThan(0.95)
    expect(isAtLimit).toBe(false)
    expect(alignClocks(fast, slow, 30).offset).toBeNear(-offset, 0.02)
  })

  it('that are farther apart than was looked say so; a channel that stands still says nothing', () => {
    const [a, b] = [seen(20, 0, 120, 0, 1, 1), seen(20, 0, 120, 12, 1, 2)]
    expect(alignClocks(a, b, 5).isAtLimit).toBe(true)
    expect(alignClocks(a, b, 20).offset).toBeNear(12, 1e-5)
    expect(refusal(() => alignClocks(a, { t: b.t, y: b.y.map(() => 3) }, 5)).code).toBe('data-range')
  })
})
