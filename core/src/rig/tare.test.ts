import { describe, expect, it } from 'vitest'
import { Tare } from './tare'

/** A second of readings from t0, a hundred a second, about a level. */
const second = (t0: number, level: number, slope = 0, scatter = 1) => {
  const t = Array.from({ length: 100 }, (_, i) => t0 + i / 100)
  const load = t.map((x, i) => level + slope * (x - t0) + scatter * Math.sin(2.39996 * i))
  return { t, channels: { load, slow: t0 % 2 === 0 ? [1e6 + level] : [] } }
}
const fed = (...blocks: ReturnType<typeof second>[]) => {
  const tare = new Tare('load', 1000)
  for (const b of blocks) tare.feed(b)
  return tare
}

describe('a zero that is taken', () => {
  it('is the mean of a second with its scatter, and is not averaged on', () => {
    const tare = fed(second(0, 50), second(1, 50))
    expect(tare.isQuiet).toBe(true)
    const { zeros } = tare.take(1.5)
    expect(zeros['load']!.mean).toBeCloseTo(50, 1)
    expect(zeros['load']!.sd).toBeCloseTo(Math.SQRT1_2, 1)
    tare.feed(second(2, 700))
    tare.feed(second(3, 700))
    expect(tare.zeroOf('load')).toBe(zeros['load']!.mean)
    expect(tare.loadOn()).toBeCloseTo(650, 0)
    expect(tare.isLoaded).toBe(true)
    expect(fed(second(0, 50), second(1, 50)).isLoaded).toBe(false)
  })

  it('waits while the load moves; until then readings count from the first', () => {
    const tare = fed(second(0, 50, 40), second(1, 90, 40))
    expect(tare.isQuiet).toBe(false)
    expect(tare.zeroOf('load')).toBe(50)
    // A load put on before there is a zero is on.
    expect(fed(second(0, 0), second(1, 300), second(2, 300)).isLoaded).toBe(true)
  })

  it('keeps the first reading of a slow channel, leaves out what is none, and loses no digits far from nothing', () => {
    const tare = fed(second(0, 50), second(1, 50))
    const bad = second(2, 50)
    bad.channels.load[3] = NaN
    bad.channels.load[4] = Infinity
    tare.feed(bad)
    const { zeros } = tare.take(2.5)
    expect(zeros['slow']).toEqual({ mean: 1e6 + 50, sd: 0, n: 1 })
    expect(Number.isFinite(zeros['load']!.mean)).toBe(true)
    const far = fed(
      { t: [0, 0.1, 0.2, 0.3], channels: { load: [1e9, 1e9 + 0.25, 1e9 + 0.5, 1e9 + 0.25], slow: [] } },
      second(0.5, 1e9 + 0.25, 0, 0),
    )
    expect(far.take(1).zeros['load']!.mean - 1e9).toBeCloseTo(0.25, 6)
  })

  it('may be said by people', () => {
    const tare = fed(second(0, 50))
    tare.set({ t: 1, zeros: { load: { mean: 42, sd: 0, n: 1 } } })
    expect(tare.zeroOf('load')).toBe(42)
  })
})
