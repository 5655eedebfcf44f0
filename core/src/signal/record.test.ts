import fc from 'fast-check'
import { mendedClock, orderClock, type ClockRepair, type ClockState } from './clock'
import { describe, expect, it } from 'vitest'
import { SeededRandom } from '../statistics/random'
import { withNoise } from './noise'
import { failureEvent } from './failureEvent'
import { channelHealth, movesAgainst, worstFirst, type HealthCode } from './health'
import { findParting } from './redundancy'
import { resample } from './timeBase'
import { driftZeroed, zeroed } from './zero'

const t = Float64Array.from({ length: 400 }, (_, i) => i / 10)
const random = new SeededRandom(11)
const quiet = t.map(v => Math.sin(v) + 0.001 * random.normal())

describe('failure event', () => {
  it('is the first fall by the fraction of the running maximum within the time', () => {
    const y = t.map(v => (v < 20 ? 50 * v : v < 20.15 ? 700 : 100))
    expect(failureEvent(t, y, 0.5, 0.5)).toMatchObject({ time: 20.2, from: expect.closeTo(995, 6) as number, to: 100 })
    expect(failureEvent(t, y, 0.95, 0.5)).toBeNull()
  })

  it('takes no slow unloading and no small early drop for a break', () => {
    expect(
      failureEvent(
        t,
        t.map(v => (v < 20 ? v : 40 - v)),
        0.5,
        0.5,
      ),
    ).toBeNull()
    expect(
      failureEvent(
        t,
        t.map(v => (v < 2 ? v : v < 3 ? 0.1 : v)),
        0.5,
        0.5,
      ),
    ).toBeNull()
  })
})

describe('zero', () => {
  it('takes a mean off, or a line between two zeros', () => {
    const y = t.map(v => 5 + 0.1 * v)
    expect(zeroed(t, y, [0, 2])[0]).toBeCloseTo(-0.1, 12)
    expect(Math.max(...driftZeroed(t, y, [0, 2], [37, 39]).map(Math.abs))).toBeLessThan(1e-12)
    expect(() => zeroed(t, y, [90, 95])).toThrow(/no sample/)
  })
})

describe('time base', () => {
  const own = Float64Array.from([0, 1, 2, 5])
  const y = Float64Array.from([0, 10, 20, 50])
  const onto = Float64Array.from([-1, 0, 0.4, 0.6, 3, 5, 6])
  it('brings a channel onto another clock, and makes nothing up beyond its record or its gaps', () => {
    expect(Array.from(resample(own, y, onto, 'linear'))).toEqual([NaN, 0, 4, 6, 30, 50, NaN])
    expect(Array.from(resample(own, y, onto, 'nearest'))).toEqual([NaN, 0, 0, 10, 20, 50, NaN])
    expect(Array.from(resample(own, y, onto, 'hold'))).toEqual([NaN, 0, 0, 0, 20, 50, NaN])
    expect(Array.from(resample(own, y, onto, 'linear', 1.5))).toEqual([NaN, 0, 4, 6, NaN, 50, NaN])
  })
})

describe('redundancy', () => {
  it('finds where a pair parts for good, not where one sample is odd', () => {
    const a = quiet.slice()
    const b = quiet.map((v, i) => v + (i === 50 ? 3 : i >= 200 ? 0.5 : 0))
    expect(findParting(t, a, b, { a: 0.1, b: 0.1 }, { guide: t })).toMatchObject({
      index: 200,
      guide: 20,
      difference: expect.closeTo(-0.5, 12) as number,
    })
    expect(findParting(t, a, b, { a: 0.5, b: 0.5 })).toBeNull()
  })
})

describe('health', () => {
  const codes = (y: Float64Array, o = {}) => channelHealth(t, y, o).map(f => f.code)
  it('has nothing to say of a sound channel', () =>
    expect(
      codes(quiet, {
        fullScale: 2,
        noiseFloor: 0.1,
        driftLimit: 3,
        interval: 0.1,
        guide: { values: quiet, direction: 1 },
      }),
    ).toEqual([]))

  it.each([
    ['clipped', quiet.map(v => Math.min(v, 0.9)), { fullScale: 0.9 }],
    ['flat', quiet.map((v, i) => (i > 100 && i < 180 ? 0.3 : v)), {}],
    ['gap', quiet.map((v, i) => (i > 100 && i < 120 ? NaN : v)), {}],
    ['spike', quiet.map((v, i) => (i === 77 ? 40 : v)), {}],
    ['noisy', quiet.map(v => v + random.normal()), { noiseFloor: 0.1 }],
    ['drift', t.map(v => v / 10 + Math.sin(40 * v)), { driftLimit: 1 }],
    ['swapped-sign', quiet.map(v => -v), { guide: { values: quiet, direction: 1 } }],
    ['rate-error', quiet, { interval: 0.2 }],
    ['dead', t.map(() => 4), {}],
    ['dead', t.map(() => NaN), {}],
  ])('says %s', (code, y, options) => expect(codes(y, options)).toContain(code))
})

describe('channels of a record', () => {
  it('come with the worst first: what spoils one before what only needs a look, and the farther off the sooner', () => {
    const with_ = (name: string, ...codes: [HealthCode, number?][]) => ({
      name,
      health: codes.map(([code, size]) => ({ code, message: '', ...(size === undefined ? {} : { size }) })),
    })
    const channels = [
      { name: 'sound', health: null },
      with_('noisy', ['noisy', 3]),
      with_('a spike', ['spike', 12]),
      with_('a worse one', ['spike', 90]),
      with_('a spike and gaps', ['spike', 500], ['gap', 0.02]),
      with_('dead', ['dead']),
      with_('turned', ['swapped-sign']),
    ]
    expect(worstFirst(channels).map(c => c.name)).toEqual([
      'dead',
      'turned',
      'a spike and gaps',
      'a worse one',
      'a spike',
      'noisy',
      'sound',
    ])
  })

  it('move against one another where a sign is turned, gaps or not', () => {
    const y = Float64Array.from({ length: 500 }, (_, i) => (i % 50 === 0 ? NaN : Math.sin(i / 30) + 5))
    expect(
      movesAgainst(
        y,
        y.map(v => 3 - 2 * v),
      ),
    ).toBe(true)
    expect(
      movesAgainst(
        y,
        y.map((v, i) => v + (i % 7)),
      ),
    ).toBe(false)
    expect(
      movesAgainst(
        y,
        y.map(() => 4),
      ),
    ).toBe(false)
  })
})

describe('spikes', () => {
  const n = 4000
  const clock = Float64Array.from({ length: n }, (_, i) => i / 100)
  const counts = (sigma: number, seed: number) => {
    const r = new SeededRandom(seed)
    return Float64Array.from({ length: n }, (_, i) => Math.round(500 + i / 50 + sigma * r.normal()))
  }
  const spikes = (y: Float64Array) => channelHealth(clock, y, { flatSamples: n }).filter(f => f.code === 'spike')

  it('are not seen in noise: none of 400 clean channels is flagged', () => {
    let flagged = 0
    for (let seed = 1; seed <= 400; seed++) {
      const r = new SeededRandom(seed)
      const phi = seed % 2 === 0 ? 0 : 0.8
      flagged += spikes(withNoise(new Float64Array(n), { sigma: 1, phi }, 1, r)).length
    }
    expect(flagged).toBe(0)
  })

  it.each([0, 0.3, 1, 1.5])(
    'of 20 counts are found in a noise of %d counts, at the ends and beside gaps too',
    sigma => {
      for (const at of [0, 1, 77, 2000, n - 2, n - 1]) {
        const y = counts(sigma, 3)
        y[at]! += 20
        expect(spikes(y), `at ${at}`).toMatchObject([{ index: at }])
      }
      const beside = counts(sigma, 4)
      beside.fill(NaN, 900, 920)
      beside[920]! -= 20
      expect(spikes(beside)).toMatchObject([{ index: 920, message: expect.stringMatching(/^1 outlier/) as string }])
    },
  )

  it('are counted, with the worst of them; a rail below full scale is named', () => {
    const y = counts(1, 5)
    for (const [at, by] of [
      [500, 30],
      [1500, -60],
      [2500, 40],
    ] as const)
      y[at]! += by
    expect(spikes(y)[0]!.message).toMatch(/^3 outliers \(spikes\), the worst \d+ times/)
    const railed = counts(1, 6).map(v => Math.min(v, 560))
    expect(channelHealth(clock, railed, { fullScale: 570 }).map(f => f.message)).toContain(
      'The reading stands at 98.2 % of full scale: it may be at its rail.',
    )
  })
})

describe('a logger’s clock', () => {
  const state = (): ClockState => ({ last: null, added: 0, repairs: [] })
  it('goes on over midnight and over an hour put back, block after block, and says so', () => {
    const s = state()
    const first = Float64Array.of(86_398, 86_399)
    const second = Float64Array.of(0.5, NaN, 1.5)
    expect([orderClock(first, s), orderClock(second, s)]).toEqual([null, null])
    expect(Array.from(second)).toEqual([86_400.5, NaN, 86_401.5])
    const hour = Float64Array.of(10_798, 10_799, 7200, 7201)
    const t = state()
    expect(orderClock(hour, t)).toBeNull()
    expect(Array.from(hour)).toEqual([10_798, 10_799, 10_800, 10_801])
    expect([...s.repairs, ...t.repairs].map(r => r.code)).toEqual(['midnight', 'hour-back'])
  })
  it('does not explain away what else goes back or stands still', () => {
    expect(orderClock(Float64Array.of(1, 2, 1.5), state())).toBe(2)
    expect(orderClock(Float64Array.of(1, 2, 2), state())).toBe(2)
    expect(orderClock(Float64Array.of(86_399_000, 500), state(), 1000)).toBeNull()
  })
  it('lets through what somebody said what to do about', () => {
    expect(orderClock(Float64Array.of(1, 2, 2, 3), state(), 1, { repeats: 'drop' })).toBeNull()
    expect(orderClock(Float64Array.of(1, 2, 1, 3), state(), 1, { repeats: 'drop' })).toBe(2)
    expect(orderClock(Float64Array.of(1, 2, 1, 3), state(), 1, { jumps: 'first' })).toBeNull()
  })
})

describe('a mended clock', () => {
  const mend = (t: number[], repair: ClockRepair) => {
    const m = mendedClock(Float64Array.from(t), repair)
    return (
      m && { t: [...m.t], rows: [...m.from].map((from, i) => [from, m.to[i]!]), repeated: m.repeated, left: m.left }
    )
  }
  const twice = [0, 1, 1, 1, 4, NaN, 5, 5]
  it('drops, averages or spreads stamps that repeat, and leaves gaps alone', () => {
    expect(mend(twice, { repeats: 'drop' })).toEqual({
      t: [0, 1, 4, NaN, 5],
      rows: [
        [0, 1],
        [1, 2],
        [4, 5],
        [5, 6],
        [6, 7],
      ],
      repeated: 3,
      left: 0,
    })
    expect(mend(twice, { repeats: 'average' })!.rows).toEqual([
      [0, 1],
      [1, 4],
      [4, 5],
      [5, 6],
      [6, 8],
    ])
    expect(mend([0, 1, 1, 1, 4, 5, 5], { repeats: 'nudge' })!.t).toEqual([0, 1, 2, 3, 4, 5, 5.5])
    expect(mend([0, 1, 2], { repeats: 'nudge' })).toBeNull()
  })
  it('keeps the piece that is meant where it was begun anew, or leapt', () => {
    const anew = [0, 1, 2, 0, 1, 2, 3, 4]
    expect(mend(anew, { jumps: 'first' })).toMatchObject({ t: [0, 1, 2], left: 5 })
    expect(mend(anew, { jumps: 'last' })).toMatchObject({ t: [0, 1, 2, 3, 4], left: 3 })
    expect(mend(anew, { jumps: 'longest' })!.rows[0]).toEqual([3, 4])
    expect(mend([0, 0.1, 0.2, 4522, 4522.1], { jumps: 'first' })).toMatchObject({ t: [0, 0.1, 0.2] })
    // A pause of a hand-read sheet is none.
    expect(mend([0, 60, 120, 3600, 3660], { jumps: 'first' })).toBeNull()
  })
  it('rises strictly whatever it is given', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 1, maxLength: 60 }),
        fc.constantFrom(...(['drop', 'average', 'nudge'] as const)),
        fc.constantFrom(...(['first', 'last', 'longest'] as const)),
        (t, repeats, jumps) => {
          const m = mendedClock(Float64Array.from(t), { repeats, jumps })
          const kept = m ? m.t : Float64Array.from(t)
          const whole = new Set(kept).size === 1 && repeats === 'nudge'
          return whole || kept.every((v, i) => i === 0 || v > kept[i - 1]!)
        },
      ),
    )
  })
})
