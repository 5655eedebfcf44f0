import { describe, expect, it } from 'vitest'
import { withNoise } from '../signal/noise'
import { SeededRandom } from '../statistics/random'
import { HypometError, families, type Reduction, type Table } from '../index'

/* Each reduction against what can be worked out by hand, and against records that hold nothing. */

const reduce = (family: string, settings: object, table: Partial<Table>): Reduction => {
  const f = families[family]!
  return f.reduce({ t: new Float64Array(0), channels: {}, units: {}, ...table }, f.settings.parse(settings), {
    sensors: {},
  })
}
const code = (work: () => unknown): string => {
  try {
    work()
  } catch (e) {
    return e instanceof HypometError ? `${e.code} ${e.place.path}` : String(e)
  }
  return 'no error'
}
const series = (n: number, of: (i: number) => number): Float64Array => Float64Array.from({ length: n }, (_, i) => of(i))
const value = (r: Reduction, key: string) => r.results[key]!.value!

describe('pull', () => {
  const t = series(101, i => i / 10)
  const ramp = (after: number) => series(101, i => (i <= 80 ? 500 * i : after))
  const record = (force: Float64Array) => ({ t, channels: { force, displacement: series(101, i => i / 1e4) } })

  it('a spring to its break: strength, half of force times way, stiffness', () => {
    const r = reduce('pull', { referenceStrength: 50_000 }, record(ramp(100)))
    expect(r.results['peakForce']).toEqual({ value: 40_000, unit: 'N', bound: 'exact' })
    expect([value(r, 'retained'), value(r, 'timeAtPeak'), value(r, 'broke')]).toEqual([0.8, 8, 1])
    expect(value(r, 'stiffness')).toBeCloseTo(5e6, 3)
    expect(value(r, 'energyToPeak')).toBeCloseTo((40_000 * 0.008) / 2, 9)
    expect(value(r, 'loadingRate')).toBeCloseTo(5000, 6)
  })

  it('one that held, and a gauge at its end, are lower bounds', () => {
    expect(reduce('pull', { referenceStrength: 50_000 }, record(ramp(39_000))).results['peakForce']!.bound).toBe(
      'atLeast',
    )
    const clipped = reduce(
      'pull',
      { referenceStrength: 50_000, gaugeFullScale: 35_000 },
      record(ramp(100).map(v => Math.min(v, 35_000))),
    )
    expect([clipped.results['retained']!.bound, clipped.warnings.map(w => w.code)]).toEqual([
      'atLeast',
      ['near-full-scale', 'clipped'],
    ])
  })
})

describe('burst', () => {
  const t = series(4001, i => i / 10)
  /** Sealed at 300 kPa absolute and 300 K, losing one thousandth an hour, while the room cools by 2 K an hour. */
  const temperature = series(4001, i => 300 - (2 * t[i]!) / 3600)
  const pressure = series(4001, i => (300_000 / 300) * temperature[i]! * (1 - (0.001 * t[i]!) / 3600) - 101_325)

  it('a leak that is mostly weather: with the temperature it is what leaked, without it is the cold', () => {
    const settings = { radius: 0.2, ratedPressure: 100_000, requiredFactor: 1.5, volume: 0.1, holds: [[0, 400]] }
    const hold = (channels: Record<string, Float64Array>) =>
      reduce('burst', settings, { t, channels }).tables['holds']!.columns
    expect(hold({ pressure, temperature })['leakPercentPerHour']![0]).toBeCloseTo(0.1, 4)
    expect(hold({ pressure })['leakPercentPerHour']![0]).toBeCloseTo(0.1 + (100 * 2) / 300, 2)
    // Volume times the fall of pressure over temperature, as air at 293.15 K and 101 325 Pa.
    expect(hold({ pressure, temperature })['standardLeak']![0]).toBeCloseTo(
      (0.1 * 1000 * 0.001 * 293.15) / 3600 / 101_325,
      12,
    )
  })

  it(
    'what did not burst is a lower bound; line loads go with the radius; a hold beyond the record is refused ' +
      'where it stands',
    () => {
      const r = reduce(
        'burst',
        { radius: 0.2, ratedPressure: 100_000, requiredFactor: 1.5 },
        { t, channels: { pressure } },
      )
      expect(r.results['burstFactor']!.bound).toBe('atLeast')
      expect(value(r, 'hoopLineLoad')).toBeCloseTo(value(r, 'burstPressure') * 0.2, 9)
      expect(value(r, 'axialLineLoad')).toBeCloseTo(value(r, 'burstPressure') * 0.1, 9)
      expect(
        code(() =>
          reduce(
            'burst',
            {
              radius: 0.2,
              ratedPressure: 1e5,
              requiredFactor: 1.5,
              holds: [
                [0, 10],
                [500, 600],
              ],
            },
            { t, channels: { pressure } },
          ),
        ),
      ).toBe('setting-range settings.holds.1')
    },
  )
})

describe('crush', () => {
  /** 1 mm air, up to 60 kN in 2 mm, down to 30 kN at 4 mm, level to 120 mm, then steeply up. */
  const displacement = series(1301, i => i / 1e4)
  const at = (x: number) =>
    x < 1 ? 0 : x < 3 ? 30 * (x - 1) : x < 5 ? 60 - 15 * (x - 3) : x < 121 ? 30 : 30 + 40 * (x - 121)
  const force = displacement.map(d => 1000 * at(1000 * d))

  it('peak, level, and the stroke at which it is used up', () => {
    const r = reduce('crush', { linearMass: 0.8, length: 0.2 }, { channels: { force, displacement } })
    expect(value(r, 'initialPeak')).toBeCloseTo(60_000, 6)
    // From contact at 1 % of the largest on, some 0.1 mm late.
    expect(value(r, 'densification')).toBeCloseTo(0.12, 3)
    expect(value(r, 'meanForce')).toBeCloseTo((45_000 * 0.002 + 30_000 * 0.116) / 0.118, -2)
    expect(value(r, 'specificEnergy')).toBeCloseTo(value(r, 'energy') / (0.8 * value(r, 'densification')), 6)
    expect(r.results['energy']!.bound).toBe('exact')
  })

  it('one that ends on its level has seen no end; without contact there is nothing', () => {
    const short = reduce(
      'crush',
      { linearMass: 0.8 },
      { channels: { force: force.slice(0, 1000), displacement: displacement.slice(0, 1000) } },
    )
    expect([short.results['energy']!.bound, short.warnings[0]!.code]).toEqual(['atLeast', 'no-densification'])
    expect(
      code(() => reduce('crush', { linearMass: 0.8 }, { channels: { force: force.map(() => 0), displacement } })),
    ).toBe('no-event channels.force')
    expect(
      code(() => reduce('crush', { linearMass: 0.8, zeroStart: [0, 1] }, { channels: { force, displacement } })),
    ).toBe('missing-channel channels.t')
  })
})

describe('drop', () => {
  const t = series(20_000, i => i / 1e5)
  /** A half sine of 500 m/s² over 20 ms: 2·A·T/π of velocity. */
  const half = series(20_000, i =>
    t[i]! > 0.05 && t[i]! < 0.07 ? 500 * Math.sin((Math.PI * (t[i]! - 0.05)) / 0.02) : 0,
  )

  it('a half sine gives its velocity back, its plateau and its stroke', () => {
    const deltaV = (2 * 500 * 0.02) / Math.PI
    const r = reduce(
      'drop',
      { cfc: 1000, impactVelocity: deltaV, mass: 10, spine: true },
      { t, channels: { acceleration: half } },
    )
    expect(value(r, 'peak')).toBeNear(500, 1e-7)
    expect(value(r, 'deltaV') / deltaV).toBeCloseTo(1, 2)
    expect(Math.abs(value(r, 'rebound'))).toBeLessThan(0.02)
    // Above half of the peak, from 30° to 150°, it has sin 60° in the middle; its mean above nine tenths of that.
    const from = Math.asin((0.9 * Math.sqrt(3)) / 2)
    expect(value(r, 'plateau') / ((500 * 2 * Math.cos(from)) / (Math.PI - 2 * from))).toBeNear(1, 1e-3)
    // Half the velocity for the time of the pulse, by symmetry.
    expect(value(r, 'displacement') / ((deltaV * 0.02) / 2)).toBeNear(1, 0.05)
    expect(value(r, 'peakForce')).toBeCloseTo(10 * value(r, 'peak'), 9)
    // A short pulse is a blow: the spine answers with ω·Δv, less what damping and length take.
    expect(value(r, 'responseIndex')).toBeLessThan((52.9 * deltaV) / 9.80665)
    expect(value(r, 'responseIndex')).toBeGreaterThan((0.6 * 52.9 * deltaV) / 9.80665)
  })

  it('a step held long is a load: the spine answers statically', () => {
    const step = series(200_000, i => (i > 100 ? 98.0665 : 0))
    const index = value(
      reduce(
        'drop',
        { cfc: 60, impactVelocity: 1, spine: true },
        { t: series(200_000, i => i / 1e5), channels: { acceleration: step } },
      ),
      'responseIndex',
    )
    // 10 g, and the overshoot of a damping of 0.224: exp(−πζ/√(1−ζ²)).
    expect(index / (10 * (1 + Math.exp((-Math.PI * 0.224) / Math.sqrt(1 - 0.224 ** 2))))).toBeCloseTo(1, 2)
  })

  it('nothing that reaches the trigger is said', () => {
    expect(
      code(() => reduce('drop', { cfc: 1000, dropHeight: 1, trigger: 600 }, { t, channels: { acceleration: half } })),
    ).toBe('no-event settings.trigger')
  })
})

describe('descent', () => {
  const t = series(1001, i => i / 10)
  const settings = { mass: 100, referenceArea: 30, steadyWindow: [20, 90], temperature: 288.15, pressure: 101_325 }

  it('weight over drag: the area follows from the rate and the air', () => {
    const r = reduce(
      'descent',
      { ...settings, stretchTime: 3, fullTime: 5, stretchSpeed: 30 },
      {
        t,
        channels: {
          altitude: series(1001, i => 600 - 6 * t[i]!),
          riserForce: series(1001, i => (i === 45 ? 9000 : 981)),
        },
      },
    )
    expect(value(r, 'descentRate')).toBeCloseTo(6, 9)
    // ISO 2533 at 270 m: 1.1935 kg/m³.
    expect(value(r, 'density')).toBeCloseTo(1.1935, 3)
    expect(value(r, 'dragArea')).toBeCloseTo((2 * 980.665) / (value(r, 'density') * 36), 9)
    expect([value(r, 'peakOpeningForce'), value(r, 'fillTime')]).toEqual([9000, 2])
    expect(value(r, 'fillConstant')).toBeCloseTo(60 / Math.sqrt(120 / Math.PI), 9)
  })

  it('noise is no swing: neither white nor slow scatter of the riser force gives an angle', () => {
    const t = Float64Array.from({ length: 1200 }, (_, i) => i / 20)
    const settings = { mass: 100, referenceArea: 60, steadyWindow: [5, 58], temperature: 288.15, pressure: 101_325 }
    for (const phi of [0, 0.9])
      for (let seed = 1; seed <= 10; seed++) {
        const riserForce = withNoise(
          t.map(() => 981),
          { sigma: 40, phi },
          1,
          new SeededRandom(seed),
        )
        const r = reduce('descent', settings, { t, channels: { altitude: t.map(v => 400 - 5 * v), riserForce } })
        expect(r.results['swingAngle']!.value).toBeNull()
        expect(r.warnings.map(w => w.code)).toContain('no-swing')
      }
  })

  it('what does not come down has no rate; a record that ends before the opening has none', () => {
    expect(code(() => reduce('descent', settings, { t, channels: { altitude: t } }))).toBe(
      'no-event settings.steadyWindow',
    )
    expect(
      code(() =>
        reduce(
          'descent',
          { ...settings, stretchTime: 200, stretchSpeed: 20 },
          { t, channels: { altitude: series(1001, i => 600 - 6 * t[i]!), riserForce: t } },
        ),
      ),
    ).toBe('no-event settings.stretchTime')
  })
})

describe('flow', () => {
  /**
   * Two ports, read at 4 and at 1 kPa: corrected to 4 kPa they are 10·lift and 12·lift, less a leak of 0.001 at 4 kPa.
   */
  const rows = [
    ['stock', 0, 0.001, 4000],
    ['stock', 0.002, 0.021, 4000],
    ['stock', 0.004, 0.0205, 1000],
    ['new', 0, 0.001, 4000],
    ['new', 0.002, 0.025, 4000],
    ['new', 0.004, 0.0245, 1000],
  ] as const
  const table = (list: typeof rows | readonly (typeof rows)[number][]) => ({
    text: { config: list.map(r => r[0]) },
    channels: {
      lift: Float64Array.from(list, r => r[1]),
      flow: Float64Array.from(list, r => r[2]),
      drop: Float64Array.from(list, r => r[3]),
    },
  })

  it('corrects for leak and pressure, and tells gain and where least was gained', () => {
    const r = reduce('flow', { referenceDrop: 4000, liftRange: [0.002, 0.004] }, table(rows))
    expect(value(r, 'meanFlow')).toBeCloseTo(0.036, 12)
    expect(value(r, 'gain')).toBeCloseTo(0.006, 12)
    expect([value(r, 'worstLift'), r.warnings]).toEqual([0.002, []])
    expect(value(r, 'worstLoss')).toBeCloseTo(-0.004, 12)
  })

  it('without a leak row nothing is taken off, and it says so; beyond the lifts there is no mean', () => {
    const r = reduce('flow', { referenceDrop: 4000, liftRange: [0.002, 0.006] }, table(rows.filter(x => x[1] > 0)))
    expect(r.warnings.map(w => w.code)).toEqual(['no-leak-test', 'range-outside', 'no-leak-test', 'range-outside'])
    expect(r.results['meanFlow']!.value).toBeNull()
  })
})
