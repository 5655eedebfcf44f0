import { describe, expect, it } from 'vitest'
import { families, proposeFor, reduceRecord, simulatedRigOf, viewPlanOf, type Kind, type StoredRecord } from '../index'

/*
 * From a plan to results: each kind of test simulated with known truth, proposed for, reduced and drawn as the Reduce
 * stage does it.
 */

interface Planned {
  family: string
  plan: { channels: { role: string; label: string; kind: Kind; expected?: unknown }[] } & Record<string, unknown>
  truth: object
  outcome?: string
}

function reduced({ family, plan, truth, outcome = 'no-failure' }: Planned, settings: Record<string, unknown> = {}) {
  const viewed = viewPlanOf(family, plan, {}, {})
  const drawn = families[family]!.stages.specimen!.draw(viewed.plan, {}, 5) as object
  const { t, channels } = simulatedRigOf(family, viewed, {}, { seed: 5, truth: { ...drawn, ...truth } }).whole(5)
    .blocks[0]!
  const columns = Object.fromEntries(
    Object.entries({ t, ...channels }).map(([role, y]) => [role, Float64Array.from(y)]),
  )
  const record: StoredRecord = { columns, units: {}, labels: {}, hasClock: true, name: 'Runner' }
  const proposed = { ...proposeFor(family, record, { plan, outcome }), ...settings }
  const r = reduceRecord(family, record, proposed, { plan, view: viewed.view, sensors: {} })
  return {
    proposed,
    record,
    figures: Object.keys(r.figures),
    of: (key: string) => r.output.results[key]!.value!,
    bound: (key: string) => r.output.results[key]!.bound,
    tables: r.output.tables,
    warnings: r.output.warnings.map(w => w.code),
  }
}

const channel = (role: string, kind: Kind, expected?: number) => ({
  role,
  label: role,
  kind,
  ...(expected === undefined ? {} : { expected }),
})
const rungs = (targets: number[], holds: number[]) => targets.map((target, i) => ({ target, hold: holds[i]! }))

describe('what is simulated comes back from the reduction', () => {
  it('a strop parts at its strength, its zero taken from the rest before', () => {
    const plan = {
      loading: { kind: 'pull', path: [{ name: 'Strop', capacity: 40_000, article: true }] },
      referenceStrength: 40_000,
      wear: 0.5,
      rungs: rungs([0, 46_000, 0], [8, 2, 4]),
      ramp: 60,
      rate: 10,
      channels: [channel('force', 'force'), channel('displacement', 'length', 0.25)],
    }
    const r = reduced({ family: 'pull', plan, truth: { strength: 31_000 }, outcome: 'article' })
    expect((r.proposed['zeroStart'] as number[])[1]).toBeLessThan(8)
    expect(r.of('peakForce') / 31_000).toBeNear(1, 0.005)
    expect([r.bound('peakForce'), r.of('broke')]).toEqual(['exact', 1])
    expect(r.figures).toEqual(['forceStretch', 'forceTime'])
  })

  it('a bag’s leak of 0.9 % an hour, hidden by the sun on it, is found once temperature is taken out', () => {
    const plan = {
      loading: { kind: 'vessel', volume: 0.18, radius: 0.21, ratedPressure: 25_000 },
      requiredFactor: 4,
      rungs: rungs([0, 25_000, 0], [20, 900, 10]),
      ramp: 10,
      rate: 2,
      channels: [channel('pressure', 'pressure', 120_000), channel('temperature', 'temperature', 295)],
    }
    const leaky = { family: 'burst', plan, truth: { strength: 2e5, leak: 2.5e-6, warming: 1e-3 } }
    const r = reduced(leaky)
    expect(r.tables['holds']!.columns['leakPercentPerHour']![0]).toBeNear(2.5e-6 * 3600 * 100, 0.08)
    // The pressure itself rose meanwhile: the room warmed by a thousandth of a kelvin a second.
    expect(r.tables['holds']!.columns['decayRate']![0]).toBeLessThan(0)
    expect(r.bound('burstFactor')).toBe('atLeast')
  })

  it('a tube’s mean force and the way until it is used up', () => {
    const plan = {
      loading: { kind: 'direct', commands: 'length', name: 'Travel', role: 'displacement' },
      linearMass: 1.2,
      length: 0.24,
      rungs: rungs([0, 0.205, 0], [4, 1, 1]),
      ramp: 100,
      rate: 10,
      channels: [channel('force', 'force', 35_000), channel('displacement', 'length')],
    }
    const r = reduced({ family: 'crush', plan, truth: { mean: 25_000, used: 0.18, ripple: 0.02 } })
    expect(r.of('meanForce') / 25_000).toBeNear(1, 0.02)
    expect(r.of('densification')).toBeCloseTo(0.18, 2)
    expect(r.of('specificEnergy')).toBeCloseTo(r.of('energy') / (1.2 * r.of('densification')), 6)
  })

  it('a drop’s integral gives the speed at impact and the rebound that it was built with', () => {
    const plan = {
      loading: { kind: 'drop', mass: 418, guideLoss: 0.04, cfc: 60, deceleration: 65 },
      rungs: rungs([0, 1.1, 0], [0.3, 4, 0.3]),
      ramp: 1,
      rate: 2000,
      channels: [channel('acceleration', 'acceleration', 80)],
    }
    const r = reduced({ family: 'drop', plan, truth: { plateau: 65, restitution: 0.12, guideLoss: 0.04, ringing: 0 } })
    expect(r.proposed['impactVelocity']).toBeCloseTo(Math.sqrt(2 * 9.80665 * 1.1 * 0.96), 9)
    expect(r.of('plateau') / 65).toBeNear(1, 0.03)
    expect(r.of('restitution')).toBeNear(0.12, 0.4)
    expect(r.figures).toContain('shockResponse')
  })

  it('a second accelerometer of the same drop has a row of its own; a dead one has none', () => {
    const t = Float64Array.from({ length: 2000 }, (_, i) => i / 2000)
    const pulse = (height: number) => t.map(s => (s > 0.4 && s < 0.49 ? height : 0))
    const columns = { t, acceleration: pulse(60), seat: pulse(90), dead: t.map(() => 0), load: pulse(5) }
    const { output } = reduceRecord(
      'drop',
      {
        columns,
        units: { acceleration: 'm/s²', seat: 'm/s²', dead: 'm/s²', load: 'N' },
        labels: {},
        hasClock: true,
        name: '',
      },
      { cfc: 180, impactVelocity: 6 },
      { plan: null, view: null, sensors: {} },
    )
    const { channel: names, peak, deltaV } = output.tables['channels']!.columns
    expect(names).toEqual(['acceleration', 'seat'])
    expect((peak![1] as number) / (peak![0] as number)).toBeCloseTo(1.5, 6)
    expect((deltaV![0] as number) / (60 * 0.09)).toBeNear(1, 0.01)
    // Five and a half metres a second were taken away, six came: something is wrong, and it says so.
    expect(output.warnings.map(w => w.code)).toContain('velocity-check')
  })

  it('a canopy’s swing by the pull of a pendulum, its steady rate by weight over drag', () => {
    const plan = {
      loading: { kind: 'direct', commands: 'length', name: 'Release', role: 'release' },
      mass: 34,
      referenceArea: 28,
      temperature: 288.15,
      pressure: 101_325,
      rungs: rungs([0, 300, 0], [1, 75, 1]),
      ramp: 20,
      rate: 20,
      channels: [channel('altitude', 'length', 300), channel('riserForce', 'force', 1500)],
    }
    const r = reduced({ family: 'descent', plan, truth: { mass: 34, full: 23, swing: 0.45, period: 4.6 } })
    expect(r.of('swingAngle')).toBeNear(0.45, 0.01)
    expect(r.of('swingPeriod')).toBeNear(4.6, 1e-9)
    expect(r.of('descentRate')).toBeNear(Math.sqrt((2 * 34 * 9.80665) / (1.2 * 23)), 0.0005)
  })

  it('a run over the lifts becomes rows of the bench, the shut valve its leak', () => {
    const plan = {
      loading: { kind: 'flow', testPressure: 10_000, diameter: 0.028, valves: 2 },
      rungs: rungs([0, 0.002, 0.006, 0.01, 0], [6, 6, 6, 6, 6]),
      ramp: 3,
      rate: 5,
      channels: [channel('lift', 'length'), channel('flow', 'volumeFlow', 0.09), channel('drop', 'pressure', 10_000)],
    }
    const r = reduced({ family: 'flow', plan, truth: { leak: 1e-3, drop: 10_000 } })
    expect(r.tables['curve']!.columns['lift']).toEqual([0.002, 0.006, 0.01])
    expect(r.tables['curve']!.columns['config']).toEqual(['Runner', 'Runner', 'Runner'])
    expect(r.warnings).not.toContain('no-leak-test')
  })
})

describe('heights that were not read as heights', () => {
  const settings = { mass: 50, referenceArea: 20, temperature: 288.15, pressure: 101_325, steadyWindow: [1, 9] }
  const t = Float64Array.from({ length: 101 }, (_, i) => i / 10)
  const falling = t.map(s => 500 - 5 * s)
  const rate = (columns: StoredRecord['columns'], more: object, hasClock = true) =>
    reduceRecord(
      'descent',
      { columns, units: {}, labels: {}, hasClock, name: '' },
      { ...settings, ...more },
      { plan: null, view: null, sensors: {} },
    ).output.results['descentRate']!.value

  it('air pressure is the standard atmosphere’s above the ground', () => {
    const airPressure = falling.map(h => 101_325 * (1 - (0.0065 * h) / 288.15) ** 5.25588)
    expect(rate({ t, airPressure }, { heightFrom: 'air pressure' })).toBeCloseTo(5, 6)
  })

  it('pictures of a video count their time by their number', () => {
    expect(
      rate(
        { t: t.map((_, i) => i), frame: t.map(s => s * 250), altitude: falling },
        { heightFrom: 'video frames', frameRate: 250 },
        false,
      ),
    ).toBeCloseTo(5, 9)
    expect(() => rate({ t, frame: t, altitude: falling }, { heightFrom: 'video frames' }, false)).toThrow(
      'Pictures tell no time without their rate.',
    )
  })
})

describe('uncertainty of results', () => {
  it('is that of the sensor at the largest reading, carried to every result by what it moves', () => {
    const n = 400
    const record: StoredRecord = {
      columns: {
        t: Float64Array.from({ length: n }, (_, i) => i / 10),
        force: Float64Array.from({ length: n }, (_, i) => (i < 300 ? 100 * i : 100)),
        displacement: Float64Array.from({ length: n }, (_, i) => i / 1e4),
      },
      units: {},
      labels: {},
      hasClock: true,
      name: '',
    }
    const { output } = reduceRecord(
      'pull',
      record,
      { referenceStrength: 40_000 },
      {
        plan: null,
        view: null,
        sensors: { force: { fullScale: 60_000, certificate: { U: 60, k: 2 }, linearity: 0.0005 } },
      },
    )
    // U/k = 30 N, half of its variance zero and half gain, and a bow of 0.0005·60 kN/√3 = 17.32 N: 34.64 N together.
    expect(output.results['peakForce']!.u).toBeCloseTo(34.641, 2)
    expect(output.results['peakForce']!.k).toBeCloseTo(2, 2)
    expect(output.results['retained']!.u! * 40_000).toBeCloseTo(34.641, 2)
    // A zero that is off does not move a slope; the gain does, and the bow as far as it is steep between 20 and 60 %.
    const parts = Object.fromEntries(output.results['stiffness']!.parts!.map(p => [p.name, p.u]))
    const stiffness = output.results['stiffness']!.value!
    expect(parts['force: gain']! / stiffness).toBeCloseTo(30 / Math.SQRT2 / 29_900, 6)
    expect(parts['force: zero']).toBeUndefined()
    const bow = (share: number) => 17.32 * Math.sin((Math.PI * share * 29_900) / 60_000)
    expect(parts['force: linearity']! / stiffness).toBeCloseTo((bow(0.6) - bow(0.2)) / (0.4 * 29_900), 4)
    expect(output.results['timeAtPeak']!.u).toBeUndefined()
  })
})

describe('a channel that is worked out from others', () => {
  const n = 300
  const load = Float64Array.from({ length: n }, (_, i) => 10 * Math.max(0, i - 20))
  const columns = {
    t: Float64Array.from({ length: n }, (_, i) => i / 10),
    load,
    deflection: load.map(f => f * 2.2e-5),
    frame: load.map(f => f * 0.2e-5),
  }
  const of = (derive: object[], units: Record<string, string> = { load: 'N', deflection: 'm', frame: 'm' }) =>
    reduceRecord(
      'static',
      { columns, units, labels: {}, hasClock: true, name: '' },
      { zeroStart: [0, 1.5], designLoad: 2000, holdTolerance: 5, derive },
      { plan: null, view: null, sensors: {} },
    ).output.results

  it('takes the frame’s motion off the deflection before anything else', () => {
    expect(of([])['stiffness']!.value).toBeCloseTo(1 / 2.2e-5, 3)
    expect(of([{ role: 'deflection', expression: 'deflection - frame' }])['stiffness']!.value).toBeCloseTo(1 / 2e-5, 3)
    expect(
      of([
        { role: 'mean', expression: '(deflection + frame) / 2' },
        { role: 'deflection', expression: 'mean' },
      ])['stiffness']!.value,
    ).toBeCloseTo(1 / 1.2e-5, 3)
  })

  it('leaves out the rows in which what it needs is missing', () => {
    columns.frame.fill(NaN, 100, 120)
    expect(of([{ role: 'deflection', expression: 'deflection - frame' }])['stiffness']!.value).toBeCloseTo(1 / 2e-5, 3)
  })

  it('is refused where it stands: an unknown name, another dimension', () => {
    expect(() => of([{ role: 'deflection', expression: 'deflection - farme' }])).toThrow(
      '“farme” is no channel of this record',
    )
    expect(() => of([{ role: 'deflection', expression: 'load * deflection' }])).toThrow('deflection is in m')
  })
})

describe('a static test of many gauges', () => {
  it('shows deflected shape, twist from a pair across the span, and the least straight gauge first', () => {
    const n = 600
    const load = Float64Array.from({ length: n }, (_, i) =>
      i < 60 ? 0 : i < 540 ? 500 * Math.min(8, 1 + Math.floor((i - 60) / 60)) : 0,
    )
    const t = Float64Array.from({ length: n }, (_, i) => i / 10)
    const columns = {
      t,
      load,
      deflection: load.map(f => f * 2e-5),
      front: load.map(f => f * 1.1e-5),
      rear: load.map(f => f * 0.9e-5),
      bent: load.map(f => f * 1e-9 + (f / 1000) ** 2 * 1e-7),
    }
    const channels = [
      channel('load', 'force'),
      { ...channel('deflection', 'length'), x: 2 },
      { ...channel('front', 'length'), x: 1, y: 0.1 },
      { ...channel('rear', 'length'), x: 1, y: -0.1 },
      channel('bent', 'strain'),
    ]
    const plan = {
      loading: { kind: 'points', loads: [{ x: 2, share: 1 }] },
      designLoad: 3000,
      deflectionAt: 2,
      holdTolerance: 5,
      rungs: rungs([0, 1000, 2000, 3000, 4000, 0], [6, 12, 12, 12, 12, 6]),
      ramp: 1,
      channels,
    }
    const properties = {
      section: 'solid',
      length: 2,
      width: 0.05,
      rootHeight: 0.05,
      tipHeight: 0.05,
      modulus: 70e9,
      strength: 3e8,
      shearStrength: 1e8,
      density: 2700,
    }
    const { view } = viewPlanOf('static', plan, properties, {})
    const { output, figures } = reduceRecord(
      'static',
      { columns, units: {}, labels: {}, hasClock: true, name: '' },
      { zeroStart: [0, 5], zeroEnd: [55, 59], designLoad: 3000, minHold: 5, holdTolerance: 5 },
      { plan, view, sensors: {} },
    )
    const top = figures['shape']!.series.at(-1)!
    expect([top.name, top.x]).toEqual(['4.00 kN', [1, 1, 2]])
    expect(top.y.at(-1)).toBeCloseTo(0.08, 9)
    // 2·10⁻⁶ m/N apart over 0.2 m, at 4 kN.
    expect(figures['twist']!.series.at(-1)!.y[0]).toBeCloseTo(Math.atan(0.008 / 0.2), 9)
    expect(output.tables['gauges']!.columns['channel']![0]).toBe('bent')
    // A gauge that is gone by the end takes its own set with it, not the reduction.
    const gone = { ...columns, bent: columns.bent.map((v, i) => (t[i]! > 50 ? NaN : v)) }
    const rest = reduceRecord(
      'static',
      { columns: gone, units: {}, labels: {}, hasClock: true, name: '' },
      { zeroStart: [0, 5], zeroEnd: [55, 59], designLoad: 3000, minHold: 5, holdTolerance: 5 },
      { plan, view, sensors: {} },
    ).output.tables['gauges']!
    expect(rest.columns['setRatio']![rest.columns['channel']!.indexOf('bent')]).toBeNull()
    expect(output.tables['gauges']!.columns['nonlinearity']!.at(-1)).toBeCloseTo(0, 9)
  })
})
