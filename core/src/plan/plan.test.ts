import { describe, expect, it } from 'vitest'
import { judgeReading, nextLoading, planProblems, viewPlanOf, writeLadder } from '../index'
import { PROPERTIES, SENSORS, WRITTEN } from '../fixtures/arm'
import { forecast } from './forecast'
import { movementView } from './movement'
import { readyItems } from './ready'
import type { SpanModel } from './model'

/** A solid beam of 2 m, b 50 mm, h 40 mm, E 70 GPa: EI = 18 666.67 N·m². */
const BEAM = {
  section: 'solid',
  length: 2,
  width: 0.05,
  rootHeight: 0.04,
  tipHeight: 0.04,
  modulus: 70e9,
  strength: 250e6,
  shearStrength: 150e6,
  density: 2700,
}
const EI = (70e9 * 0.05 * 0.04 ** 3) / 12
const kg = (value: number) => ({ value, unit: 'kg' })
const controls = {
  spring: { controls: ['screen'] },
  weights: { controls: ['props'] },
  hydraulic: { controls: ['eyes'] },
  pressure: { controls: ['screen'] },
}
const base = { designLoad: 400, deflectionAt: 2, holdTolerance: 5, hazards: controls, channels: WRITTEN.channels }
const viewOf = (plan: object, properties: object = BEAM) =>
  viewPlanOf('static', { ...base, ...plan }, properties, { 1: SENSORS.load, 2: SENSORS.deflection }).view
const rungs = (...targets: unknown[]) => targets.map(target => ({ target, hold: 20 }))
const columnOf = (view: ReturnType<typeof viewOf>, key: string) => view.loading.set.find(c => c.key === key)!.values

describe('ladder', () => {
  it('loads next beyond zeros and steps down; on the way to a rung that is it; at the top nothing', () => {
    const rungs = [0, 5, 0, 4, 8, 6].map(target => ({ target }))
    const next = (rung: number, isGoing = false) => nextLoading(rungs, rung, isGoing)?.target
    expect([0, 1, 2, 3, 4, 5].map(i => next(i))).toEqual([5, 4, 4, 8, undefined, undefined])
    expect([next(1, true), next(2, true), next(5, true)]).toEqual([5, 4, undefined])
  })

  it('is written by a rule: per cent, even steps, or steps that shrink towards the goal with somebody looking', () => {
    const frame = { unit: 'N', hold: 20, zeroEvery: 0, lastHold: 60, lookFrom: 0.8 }
    const targets = (r: Parameters<typeof writeLadder>[0], f = frame) =>
      writeLadder(r, f).map(x => (x.target as { value: number }).value)
    expect(targets({ rule: 'percent', goal: 500, percents: [20, 50, 100] })).toEqual([0, 100, 250, 500, 0])
    expect(targets({ rule: 'increments', goal: 500, step: 200 }, { ...frame, zeroEvery: 1 })).toEqual([
      0, 200, 0, 400, 0, 500, 0,
    ])
    expect(targets({ rule: 'approach', goal: 100, first: 50, share: 0.5, smallest: 5 })).toEqual([
      0, 50, 75, 87.5, 93.75, 98.75, 100, 0,
    ])
    expect(
      writeLadder({ rule: 'approach', goal: 100, first: 50, share: 0.5, smallest: 5 }, frame).map(
        r => r.decision ?? false,
      ),
    ).toEqual([false, false, false, true, true, true, true, false])
  })

  it('climbs a rung of three cycles three times with zero between, and takes rates and times to get there', () => {
    const view = viewOf({
      loading: { kind: 'points', loads: [{ x: 2, share: 1 }] },
      ramp: { value: 6, unit: 'kN/min' },
      rungs: [
        { target: 0, hold: 10 },
        { target: 300, hold: 20, cycles: 3, decision: true },
        { target: 0, hold: 30, ramp: 12 },
      ],
    })
    expect(view.rungs.map(r => r.target)).toEqual([0, 300, 0, 300, 0, 300, 0])
    expect(view.rungs.map(r => r.source)).toEqual([0, 1, 1, 1, 1, 1, 2])
    expect(view.rungs.filter(r => r.decision)).toHaveLength(1)
    // 300 N at 100 N/s is 3 s each way; the last takes its own 12 s.
    expect(view.duration).toBeCloseTo(10 + 5 * 3 + 3 * 20 + 2 * 10 + 12 + 30, 9)
  })

  it('commands several actuators, each in its own kind and within what it is good for', () => {
    const plan = {
      loading: {
        kind: 'pull',
        path: [
          { name: 'Shell', capacity: 4e5, article: true },
          { name: 'Press', capacity: 1e6 },
        ],
      },
      also: [{ name: 'Inner pressure', kind: 'pressure', capacity: { value: 5, unit: 'kPa' } }],
      channels: [],
      rungs: [
        { target: 0, also: [0], hold: 5 },
        { target: 1e5, also: [{ value: 8, unit: 'kPa' }], hold: 5 },
      ],
    }
    const { view } = viewPlanOf('buckling', plan, {}, {})
    expect(view.rungs[1]!.also).toEqual([8000])
    expect(view.findings.find(f => f.path === 'rungs.1.also.0')).toMatchObject({
      code: 'over-capacity',
      severity: 'stop',
    })
    expect(
      planProblems('buckling', {
        ...plan,
        rungs: [
          { target: 0, hold: 5 },
          { target: 1e5, also: [{ value: 8, unit: 'mm' }], hold: 5 },
        ],
      }).map(e => e.place.path),
    ).toContain('rungs.1.also.0')
  })

  it('says a rung beyond the actuator or the fixture at that rung, with the load that would do', () => {
    const found = viewOf({
      loading: { kind: 'points', loads: [{ x: 2, share: 1 }] },
      capacities: { actuator: 500, fixture: { value: 0.45, unit: 'kN' } },
      rungs: rungs(0, 480, 600),
    }).findings.filter(f => f.code === 'over-capacity')
    expect(found.map(f => f.path)).toEqual(['rungs.1.target', 'rungs.2.target', 'rungs.2.target'])
    expect(found[0]!.mend).toMatch(/0\.450\skN/)
  })
})

describe('a beam loaded by bags', () => {
  const even = [
    { y: 0, load: 200 },
    { y: 2, load: 200 },
  ]
  const bags = { kind: 'bags', stations: even, bagMass: kg(2), rows: 10 }

  it(
    'shares whole bags out, lays them from the tip inward, and knows shear, bending and deflection ' + 'at each rung',
    () => {
      const w = 2 * 9.80665
      const view = viewOf({ loading: bags, rungs: rungs(0, 2 * w, 10 * w, 20 * w, 0) })
      expect(columnOf(view, 'bags')).toEqual([0, 2, 10, 20, 0])
      // Two bags in the outermost row, at 1.9 m; all twenty are an even load.
      expect(columnOf(view, 'bending')[1]).toBeCloseTo(2 * w * 1.9, 9)
      expect(columnOf(view, 'bending')[3]).toBeCloseTo(20 * w * 1, 9)
      expect(columnOf(view, 'added')).toEqual([
        '',
        '+2 in row 10',
        '+8 in rows 6–9',
        '+10 in rows 1–5',
        '−20 in rows 1–10',
      ])
      // Tip of a cantilever under a point load at a: P a² (3L − a) / 6EI.
      expect(view.rungs[1]!.expectedReading).toBeCloseTo((2 * w * 1.9 ** 2 * (6 - 1.9)) / (6 * EI), 9)
      // Ten rows of equal weight come within a few per mille of qL⁴/8EI.
      const whole = (((20 * w) / 2) * 2 ** 4) / (8 * EI)
      expect(view.rungs[3]!.expectedReading! / whole).toBeCloseTo(1, 2)
      expect(view.loading.facts.find(f => f.label === 'Mass to fetch')!.value).toBeCloseTo(40, 9)
    },
  )

  it('in layers every row gets its share at every rung', () => {
    const w = 2 * 9.80665
    const view = viewOf({ loading: { ...bags, laying: 'in layers' }, rungs: rungs(0, 10 * w, 20 * w) })
    expect(columnOf(view, 'bending')[1]).toBeCloseTo(10 * w * 1, 9)
  })

  it('says that few heavy bags cannot make the moment, and which would', () => {
    const heavy = viewOf({
      loading: {
        kind: 'bags',
        stations: [
          { y: 0, load: 300 },
          { y: 2, load: 0 },
        ],
        bagMass: kg(12),
        rows: 4,
      },
      rungs: rungs(0, 300),
    }).findings.find(f => f.code === 'bags-moment')!
    expect(heavy).toMatchObject({ severity: 'stop', path: 'loading.bagMass' })
    const mass = Number(/bags of ([\d.]+)/.exec(heavy.mend)![1])
    expect(
      viewOf({
        loading: {
          kind: 'bags',
          stations: [
            { y: 0, load: 300 },
            { y: 2, load: 0 },
          ],
          bagMass: kg(mass),
          rows: 4,
        },
        rungs: rungs(0, 300),
      }).findings.some(f => f.code === 'bags-moment'),
    ).toBe(false)
  })
})

describe('an arm loaded at four stations', () => {
  const loading = {
    kind: 'stations',
    stations: [
      { y: 0, load: 300 },
      { y: 2, load: 100 },
    ],
    positions: [0.25, 0.75, 1.25, 1.75],
    cylinderArea: { value: 5, unit: 'cm²' },
  }

  it('keeps total and moment of the target at every rung, as forces or as pressures', () => {
    const view = viewOf({ loading, rungs: rungs(0, 200, 400) })
    const at = (i: number) => [1, 2, 3, 4].map(n => (columnOf(view, `s${n}`)[i] as number) * 5e-4)
    expect(at(2).reduce((a, b) => a + b)).toBeCloseTo(400, 9)
    // ∫ q y dy / ∫ q dy of a trapezium: L/3 · (300 + 2·100)/(300 + 100) = 5/6 m.
    expect(at(2).reduce((s, f, i) => s + f * loading.positions[i]!, 0) / 400).toBeCloseTo(5 / 6, 9)
    expect(at(1).map(f => 2 * f)).toEqual(at(2).map(f => expect.closeTo(f, 9) as number))
  })

  it('a tree of levers is drawn with the jack at the centre of the load; a station that must push is refused', () => {
    const view = viewOf({ loading: { ...loading, by: 'lever tree' }, rungs: rungs(0, 400) })
    const jack = view.loading.drawing.items.find(i => i.is === 'force' && i.name === 'Jack')!
    expect(jack).toMatchObject({
      value: expect.closeTo(400, 9) as number,
      at: [expect.closeTo(5 / 6, 9) as number, expect.anything()],
    })
    expect(
      viewOf({ loading: { ...loading, positions: [1.4, 1.6, 1.8, 2] }, rungs: rungs(0, 400) }).findings.some(
        f => f.code === 'station-pushes',
      ),
    ).toBe(true)
  })

  it('the drawn shape is to scale: the tip lies where the calculation says', () => {
    const view = viewOf({ loading, rungs: rungs(0, 400) })
    const article = view.loading.drawing.items.find(i => i.is === 'area' && i.tone === 'article')
    const tip = (article?.is === 'area' ? article.points : []).filter(([x]) => Math.abs(x - 2) < 1e-9)
    expect((tip[0]![1] + tip[1]![1]) / 2).toBeCloseTo(view.rungs[1]!.expectedReading!, 12)
  })
})

describe('a panel under a bladder', () => {
  it('takes a load or a pressure as target, on both ends bends 5qL⁴/384EI, and pulls on restrained ends', () => {
    const loading = { kind: 'bladder', length: 2, width: 0.3, contactEfficiency: 0.9, filmLoss: 0.02 }
    const perPascal = 0.6 * 0.9 * 0.98
    const view = viewOf({
      loading,
      support: 'both ends',
      deflectionAt: 1,
      rungs: rungs(0, { value: 1, unit: 'kPa' }, 700),
      restraint: { axialStiffness: 1.4e8, length: 2, attachmentCapacity: { value: 1, unit: 'kN' } },
    })
    expect(view.rungs[1]!.target).toBeCloseTo(1000 * perPascal, 9)
    expect(columnOf(view, 'pressure')[2]).toBeCloseTo(700 / perPascal, 9)
    const sag = (5 * 350 * 2 ** 4) / (384 * EI)
    expect(view.rungs[2]!.expectedReading! / sag).toBeCloseTo(1, 2)
    expect(view.restraint!.pull! / ((1.4e8 * Math.PI ** 2 * sag ** 2) / 16)).toBeNear(1, 0.002)
    expect(view.findings.find(f => f.code === 'insert-overload')).toMatchObject({
      path: 'restraint.attachmentCapacity',
    })
  })
})

describe('vessel, drop, torque, shaker', () => {
  it('gas stores far more than water, and is warned of', () => {
    const vessel = (medium: string) =>
      viewPlanOf(
        'burst',
        {
          loading: { kind: 'vessel', medium, volume: { value: 20, unit: 'L' }, radius: 0.15 },
          channels: [],
          rungs: rungs(0, { value: 6, unit: 'bar' }),
        },
        {},
        {},
      ).view
    // Isentropic expansion of 20 L at 6 bar gauge, by hand: 701 325·0.02/0.4·(1 − (101 325/701 325)^0.2857) = 14 890 J.
    expect(vessel('gas').storedEnergy).toBeCloseTo(14_890, -1)
    expect(vessel('gas').standoff).toBe(30)
    expect(vessel('gas').findings.some(f => f.code === 'gas-medium')).toBe(true)
    // ½ p² V / K = 1.636 J.
    expect(vessel('water').storedEnergy).toBeCloseTo((0.5 * 6e5 ** 2 * 0.02) / 2.2e9, 9)
    expect(vessel('water').loading.set.find(c => c.key === 'hoop')!.values[1]).toBeCloseTo(9e4, 6)
  })

  it('a drop typed as a velocity is the height that gives it, and wants room to stop and samples enough', () => {
    const { view } = viewPlanOf(
      'drop',
      {
        loading: {
          kind: 'drop',
          mass: kg(40),
          guideLoss: 0.05,
          cfc: 180,
          deceleration: { value: 10, unit: 'g' },
          stroke: { value: 0.1, unit: 'm' },
        },
        channels: [],
        rate: 1000,
        rungs: rungs(0, { value: 5, unit: 'm/s' }),
      },
      {},
      {},
    )
    expect(view.rungs[1]!.target).toBeCloseTo(25 / (2 * 9.80665 * 0.95), 9)
    expect(view.storedEnergy).toBeCloseTo(40 * 9.80665 * (25 / (2 * 9.80665 * 0.95)), 6)
    expect(view.findings.filter(f => f.severity === 'stop').map(f => f.code)).toEqual(
      expect.arrayContaining(['stroke-too-short', 'rate-too-low', 'no-control']),
    )
  })

  it('a torque rig counts at the article; a part that is weaker is named with what would do', () => {
    const { view } = viewPlanOf(
      'torque',
      {
        loading: {
          kind: 'torque',
          path: [
            { name: 'Half shaft', capacity: 2100, ratio: 3, cov: 0.06, article: true },
            { name: 'Pin', capacity: 600, ratio: 1, cov: 0.05 },
          ],
          stiffness: 9000,
        },
        channels: [],
        rungs: rungs(0, 900),
      },
      {},
      {},
    )
    expect(view.loading.set.find(c => c.key === 'input')!.values[1]).toBeCloseTo(300, 9)
    expect(view.loading.set.find(c => c.key === 'twist')!.values[1]).toBeCloseTo(0.1, 9)
    expect(view.findings.find(f => f.code === 'rig-weaker')).toMatchObject({ path: 'loading.path.1.capacity' })
    expect(view.loading.facts.find(f => f.label === 'Weakest of the rig')!.value).toBeCloseTo(1800, 6)
  })

  it('shaker levels may be typed in dB below full', () => {
    const flat = {
      kind: 'shaker',
      breakpoints: [
        { frequency: 20, density: 1 },
        { frequency: 120, density: 1 },
      ],
      articleMass: kg(10),
      forceRating: 200,
    }
    const { view } = viewPlanOf(
      'vibration',
      { loading: flat, channels: [], rungs: rungs(0, { value: -6, unit: 'dB' }, { value: 0, unit: 'dB' }) },
      {},
      {},
    )
    // Flat 1 m²/s³ over 100 Hz: 10 m/s² rms; −6 dB is a factor of 10^(−0.3).
    expect(view.rungs[2]!.target).toBeCloseTo(10, 9)
    expect(view.rungs[1]!.target).toBeCloseTo(10 * 10 ** -0.3, 9)
    expect(view.findings.some(f => f.code === 'shaker-force')).toBe(true)
  })
})

describe('a kind of test without a model', () => {
  it('expects what predictions say of the channel that reads them, going with the load', () => {
    const { view } = viewPlanOf(
      'drop',
      {
        loading: { kind: 'drop', mass: kg(40) },
        channels: [{ role: 'acceleration', label: 'Floor', kind: 'acceleration', sensorId: 1 }],
        rungs: rungs(0, 0.5, 1),
      },
      {},
      { 1: { fullScale: 200 } },
      {
        predicted: [
          { quantity: 'plateau', value: 61 },
          { quantity: 'peak', value: 90 },
        ],
      },
    )
    expect(view.rungs.map(r => r.expectedReading)).toEqual([0, 45, 90])
    expect(view.channels[0]).toMatchObject({ expectedPeak: 90, utilisation: 0.45, state: 'fits' })
  })
})

describe('large movement', () => {
  it('finds the anchor that keeps the side force small: a rigid arm turning about its root', () => {
    // Turned by φ, the end of an arm of 1 m falls sin φ, its surface leans φ; inward by the bent-length rule ½φ².
    const span = (scale: number): SpanModel => ({
      length: 1,
      support: 'cantilever',
      halfDepth: () => 0.02,
      bend: loads => ({
        at: x => ({
          deflection: scale * loads[0]!.force * x,
          slope: scale * loads[0]!.force,
          moment: 0,
          shear: 0,
          strain: 0,
        }),
      }),
      failureOf: () => ({ load: 1, place: 0, mode: '' }),
    })
    const ladder = [0, 50, 100].map((target, i) => ({
      target,
      also: [],
      hold: 1,
      ramp: 1,
      source: i,
      cycle: 1,
      cycles: 1,
      decision: false,
      support: null,
      note: '',
    }))
    const loads = ladder.map(r => [{ x: 1, force: r.target }])
    const at = (anchorOffset: number) =>
      movementView({ line: 'anchored', linkLength: 1, anchorOffset, allowed: 0.05 }, span(0.002), ladder, loads, 2)!
    const plumb = at(0)
    expect(plumb.rows.map(r => r.rung)).toEqual([1, 2])
    expect(plumb.rows[1]!.inward).toBeCloseTo(0.5 * 0.2 ** 2, 9)
    expect(plumb.rows[1]!.sideForce).toBeCloseTo(100 * Math.sin(Math.atan(0.2) + Math.atan2(0.02, 1 - 0.2)), 9)
    expect(at(plumb.best!.anchorOffset).worst).toBeCloseTo(plumb.best!.worst, 9)
    for (const off of [-0.3, -0.1, 0, 0.1]) expect(at(off).worst).toBeGreaterThanOrEqual(plumb.best!.worst - 1e-9)
    // Hung weights stay plumb: only the lean of the surface is left.
    expect(
      movementView({ line: 'hung', linkLength: 1, anchorOffset: 0, allowed: 0.05 }, span(0.002), ladder, loads, 2)!
        .rows[1]!.sideForce,
    ).toBeCloseTo(100 * Math.sin(Math.atan(0.2)), 9)
  })
})

describe('can this plan decide?', () => {
  it('a gauge far too large cannot tell pass from fail; one of the house can', () => {
    const { view, budgetOf } = viewPlanOf('static', WRITTEN, PROPERTIES, { 1: SENSORS.load, 2: SENSORS.deflection })
    const inventory = [
      { id: 1, name: 'Old 500 kN cell', kind: 'force', si: { fullScale: 500_000, linearity: 0.005 } },
      { id: 2, name: 'Wire', kind: 'length', si: SENSORS.deflection },
      { id: 3, name: '10 kN cell', kind: 'force', si: SENSORS.load },
    ]
    const [row] = forecast(
      [{ id: 1, name: 'Ultimate', quantity: 'maxLoad', comparator: 'atLeast', value: 5000 }],
      [{ quantity: 'maxLoad', value: 5600, source: 'beam' }],
      view.channels,
      inventory,
      budgetOf,
    )
    expect(row).toMatchObject({ decides: false, governing: 'load', margin: 600 })
    // ± 0.5 % of 500 kN, rectangular: 2500/√3, k = 2.
    expect(row!.U).toBeNear((2 * 2500) / Math.sqrt(3), 1e-5)
    expect(row!.better.map(b => b.name)).toEqual(['10 kN cell'])
    expect(row!.better[0]!.U).toBeLessThan(20)
  })
})

describe('ready', () => {
  const { plan, view } = viewPlanOf(
    'static',
    {
      ...WRITTEN,
      hazards: controls,
      signOff: ['safety'],
      channels: [
        { ...WRITTEN.channels[0], checkValue: { value: 490.3, unit: 'N' } },
        WRITTEN.channels[1],
        { ...WRITTEN.channels[2], type: 'strain' },
      ],
    },
    PROPERTIES,
    { 1: SENSORS.load, 2: SENSORS.deflection },
  )
  const items = readyItems({
    plan,
    view,
    sensors: { 1: { name: 'LC', calibrationDue: '2026-01-01' } },
    today: '2026-06-01',
    released: null,
    photos: ['support'],
    setUp: [],
  })
  const keys = (of: (i: (typeof items)[number]) => boolean) => items.filter(of).map(i => i.key)

  it('blocks on a draft, a missing sensor, an overdue certificate and a missing picture', () => {
    expect(keys(i => i.automatic === false)).toEqual(['released', 'due:load', 'sensor:strainRoot', 'photo:tether'])
    expect(items.find(i => i.key === 'released')!.canOverride).toBe(false)
    expect(keys(i => i.sign !== undefined)).toEqual(['sign:safety'])
  })

  it('takes every gauge through its stages, with readings that are judged', () => {
    expect(keys(i => i.gauge?.role === 'strainRoot')).toEqual(
      ['surface', 'bond', 'wire', 'resistance', 'insulation', 'shunt', 'zero'].map(s => `gauge:strainRoot:${s}`),
    )
    const limits = { ...plan.ready, bits: plan.acquisition.bits }
    const judged = (key: string, text: string) =>
      judgeReading(text, items.find(i => i.key === key)!.reading!, limits).good
    expect([judged('gauge:strainRoot:resistance', '350,4'), judged('gauge:strainRoot:resistance', '358')]).toEqual([
      true,
      false,
    ])
    expect([judged('gauge:strainRoot:insulation', '2 Gohm'), judged('gauge:strainRoot:insulation', '40')]).toEqual([
      true,
      false,
    ])
    // 2 % of the 32 768 counts of one side.
    expect([judged('gauge:strainRoot:zero', '-655'), judged('gauge:strainRoot:zero', '656')]).toEqual([true, false])
    expect([judged('gauge:load:check', '0,4855 kN'), judged('gauge:load:check', '0.470 kN')]).toEqual([true, false])
    expect(items.find(i => i.key === 'gauge:strainRoot:shunt')!.reading).toBeUndefined()
    expect(() => judgeReading('3 mm', items.find(i => i.key === 'gauge:strainRoot:zero')!.reading!, limits)).toThrow(
      expect.objectContaining({ code: 'unit-dimension', place: { path: 'reading' } }) as Error,
    )
  })
})
