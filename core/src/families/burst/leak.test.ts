import { describe, expect, it } from 'vitest'
import { reduceTable } from '../../family/reduceTable'
import type { Table } from '../../method/table'
import { SeededRandom } from '../../statistics/random'
import { burst } from './index'

const AMBIENT = 101_325
const SETTINGS = {
  radius: 0.2,
  ratedPressure: 1e5,
  requiredFactor: 3,
  ambientPressure: AMBIENT,
  holds: [
    [0, 600],
    [700, 1300],
  ] as [number, number][],
}

/** One that reads without an error of its own to speak of. */
const SENSORS = { pressure: { fullScale: 1e6, resolution: 1 } }

/** Two holds that leak so much of their absolute pressure an hour, read with noise that hangs together. */
function held(leaks: readonly [number, number], noise: number, seed: number): Table {
  const random = new SeededRandom(seed)
  const t = Float64Array.from({ length: 2700 }, (_, i) => i / 2)
  let off = 0
  const pressure = t.map(v => {
    off = 0.6 * off + noise * random.normal()
    const i = v < 650 ? 0 : 1
    return (3e5 + AMBIENT) * (1 - (leaks[i]! * (v - i * 700)) / 3600) - AMBIENT + off
  })
  return { t, channels: { pressure }, units: { pressure: 'Pa' } }
}

describe('the leak of a vessel over all holds', () => {
  it('is that of the hold that loses most, as a share of absolute pressure', () => {
    const { results } = reduceTable(burst, held([0.01, 0.024], 0, 1), SETTINGS, { sensors: {} })
    expect(results['largestLeak']!.value! * 3600).toBeCloseTo(0.024, 9)
    const none = reduceTable(burst, held([0, 0], 0, 1), { ...SETTINGS, holds: [] }, { sensors: {} })
    expect(none.results['largestLeak']).toBeUndefined()
  })

  it('is within its uncertainty as often as that says, noise that hangs together counted', () => {
    const [times, truth] = [200, 0.02]
    let inside = 0
    for (let seed = 1; seed <= times; seed++) {
      const { largestLeak } = reduceTable(burst, held([0, truth], 150, seed), SETTINGS, { sensors: SENSORS }).results
      if (Math.abs(largestLeak!.value! * 3600 - truth) <= largestLeak!.k! * largestLeak!.u! * 3600) inside++
    }
    expect(inside / times).toBeGreaterThan(0.9)
    expect(inside / times).toBeLessThan(0.99)
  })
})
