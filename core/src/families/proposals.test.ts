import { describe, expect, it } from 'vitest'
import { families } from '../index'
import { through } from '../fixtures/coverage'
import { withNoise } from '../signal/noise'
import { shownWindow } from '../signal/window'
import { SeededRandom } from '../statistics/random'

/* What a reduction begins with, where nobody said anything: windows that hold no ramp, events that are events. */

const times = (seconds: number, rate: number) =>
  Float64Array.from({ length: Math.round(seconds * rate) + 1 }, (_, i) => i / rate)
const propose = (family: string, t: Float64Array, channels: Record<string, Float64Array>) =>
  families[family]!.propose({ plan: null, table: { t, channels, units: {} }, outcome: '' })

describe('holds', () => {
  it.each([1, 4, 10, 50])('end before the ramp that follows, sampled at %d Hz: what leaks is what leaked', rate => {
    const t = times(400, rate)
    // Two per cent an hour leak out of the hold; then it is pumped up to its end.
    const pressure = t.map(
      through([
        [0, 0],
        [20, 0],
        [40.37, 300_000],
        [240.37, 300_000 - (401_325 * 0.02 * 200) / 3600],
        [300, 600_000],
        [300.5, 0],
        [400, 0],
      ]),
    )
    const noisy = withNoise(pressure, { sigma: 60, phi: 0 }, 1, new SeededRandom(4))
    const settings = propose('burst', t, { pressure: noisy })
    const holds = settings['holds'] as [number, number][]
    expect(holds).toHaveLength(1)
    expect(holds[0]![0]).toBeGreaterThan(45)
    expect(holds[0]![1]).toBeLessThanOrEqual(240.37)
    expect(holds[0]![1]).toBeGreaterThan(225)
    const family = families['burst']!
    const given = { ...settings, radius: 0.2, ratedPressure: 1e5, requiredFactor: 4 }
    const { tables } = family.reduce({ t, channels: { pressure: noisy }, units: {} }, family.settings.parse(given), {
      sensors: {},
    })
    const leak = tables['holds']!.columns['leakPercentPerHour']![0] as number
    expect(Math.abs(leak - 2)).toBeLessThan(rate >= 4 ? 0.4 : 1)
  })
})

describe('a descent', () => {
  const t = times(80, 20)
  const altitude = t.map(v => 500 - 5.5 * Math.max(0, v - 4))
  const riserForce = t.map(
    through([
      [0, 0],
      [4, 0],
      [4.5, 2600],
      [7, 1000],
      [70, 981],
      [70.2, 0],
      [80, 0],
    ]),
  )

  it('opens at the riser’s step, not at a snatch before it nor at the jerk of landing', () => {
    const disturbed = riserForce.map((f, i) => {
      if (t[i] === 1.5) return 3500
      return Math.abs(t[i]! - 70.15) < 0.06 ? 6000 : f
    })
    const noisy = withNoise(disturbed, { sigma: 15, phi: 0 }, 1, new SeededRandom(9))
    const { stretchTime, fullTime, steadyWindow } = propose('descent', t, { altitude, riserForce: noisy })
    expect(stretchTime).toBeGreaterThanOrEqual(4)
    expect(stretchTime).toBeLessThan(4.2)
    expect(fullTime).toBeCloseTo(4.5, 1)
    const [from, to] = steadyWindow as [number, number]
    expect(from).toBeGreaterThan(7)
    expect(to).toBeLessThan(70)
  })

  it('that was hung from the first sample on, or has no riser, says no opening', () => {
    expect(propose('descent', t, { altitude, riserForce: t.map(() => 981) })).not.toHaveProperty('stretchTime')
    expect(propose('descent', t, { altitude })).not.toHaveProperty('stretchTime')
  })
})

describe('a window that is shown', () => {
  it('lies inside what it was made of, as finely as the record is sampled', () => {
    expect(shownWindow(times(10, 10), 1.2345, 5.6789)).toEqual([1.24, 5.67])
    expect(shownWindow(times(1, 100_000), 0.012345678, 0.0234567)).toEqual([0.012346, 0.023456])
    expect(shownWindow(times(3000, 1), 10.02, 10.04)).toBeNull()
  })
})
