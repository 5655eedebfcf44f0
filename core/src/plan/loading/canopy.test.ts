import { describe, expect, it } from 'vitest'
import { families, proposeFor, reduceRecord, simulatedRigOf, viewPlanOf, type StoredRecord } from '../../index'
import { STANDARD_GRAVITY } from '../../quantity/units'
import { densityAt, fly } from './canopyFlight'

const still = { height: 400, speed: 0, course: 0, mass: 60, loose: 0, wind: [] }

describe('the way down under a canopy', () => {
  it('falls as in a vacuum until it opens, and lands as fast as weight and drag area say', () => {
    const { openings, rate } = fly({ ...still, stages: [{ at: 2, dragArea: 24 }] })
    expect(openings[0]!.speed).toBeCloseTo(2 * STANDARD_GRAVITY, 6)
    expect(openings[0]!.height).toBeCloseTo(400 - 2 * STANDARD_GRAVITY, 6)
    expect(rate).toBeCloseTo(Math.sqrt((2 * 60 * STANDARD_GRAVITY) / (1.225 * 24)), 2)
  })

  it('reaches the speed of a free fall with drag, as tanh has it', () => {
    // v = v∞·tanh(g·t/v∞) at one density; from 30 m it hardly changes.
    const terminal = Math.sqrt((2 * 60 * STANDARD_GRAVITY) / (densityAt(25) * 0.5))
    const { openings } = fly({ ...still, height: 30, loose: 0.5, stages: [{ at: 1.5, dragArea: 24 }] })
    expect(openings[0]!.speed / (terminal * Math.tanh((STANDARD_GRAVITY * 1.5) / terminal))).toBeCloseTo(1, 3)
  })

  it('drifts with the wind as it comes down, and is thrown along the carrier’s course', () => {
    const wind = [{ altitude: 0, speed: 5, from: (270 * Math.PI) / 180 }]
    const drifted = fly({ ...still, stages: [{ at: 0, dragArea: 24 }], wind })
    expect(drifted.east / (5 * drifted.time)).toBeCloseTo(1, 1)
    expect(Math.abs(drifted.north)).toBeLessThan(1e-9)
    const thrown = fly({ ...still, speed: 30, course: Math.PI / 2, stages: [{ at: 3, dragArea: 24 }] })
    expect([thrown.east > 90, Math.abs(thrown.north) < 1e-6]).toEqual([true, true])
  })

  it('says of a stage that it never comes to that it does not open', () => {
    const { openings, time } = fly({
      ...still,
      height: 50,
      stages: [
        { at: 0.5, dragArea: 3 },
        { at: 40, dragArea: 24 },
      ],
    })
    expect([openings[0] === null, openings[1], time < 40]).toEqual([false, null, true])
  })

  it('is the same with half the steps’ worth of stages: what opens as it was is no stage', () => {
    const one = fly({ ...still, stages: [{ at: 1, dragArea: 20 }] })
    const two = fly({
      ...still,
      stages: [
        { at: 1, dragArea: 20 },
        { at: 9.31, dragArea: 20 },
      ],
    })
    expect(two.time).toBeCloseTo(one.time, 6)
  })
})

const q = (value: number, unit: string) => ({ value, unit })
const channel = (role: string, kind: string, expected?: unknown) => ({
  role,
  label: role,
  kind,
  ...(expected ? { expected } : {}),
})
const plan = {
  mass: q(60, 'kg'),
  referenceArea: q(28, 'm²'),
  loading: {
    kind: 'canopy',
    carrierSpeed: q(0, 'm/s'),
    delay: q(1, 's'),
    dragCoefficient: 0.85,
    openingFactor: 1.6,
    stages: [
      { share: 0.15, after: 0, spread: q(0.1, 's') },
      { share: 1, after: q(8, 's'), spread: q(0.1, 's') },
    ],
    layers: [
      { altitude: 0, speed: q(3, 'm/s'), from: q(240, 'deg') },
      { altitude: q(150, 'm'), speed: q(6, 'm/s'), from: q(265, 'deg') },
    ],
    field: [
      [-300, -300],
      [600, -300],
      [600, 500],
      [-300, 500],
    ],
  },
  rungs: [
    { target: 0, hold: 5 },
    { target: q(400, 'm'), hold: 150 },
    { target: 0, hold: 5 },
  ],
  ramp: 60,
  rate: 50,
  channels: [
    channel('altitude', 'length', 400),
    channel('riserForce', 'force', 3000),
    channel('east', 'length', 300),
    channel('north', 'length', 300),
  ],
}
const written = (loading: object, more: object = {}) => ({ ...plan, ...more, loading: { ...plan.loading, ...loading } })
const findingsOf = (p: object) =>
  viewPlanOf('descent', p, {}, {}).view.findings.map(f => `${f.code} ${f.path} ${f.severity}`)

describe('a plan of a descent', () => {
  it('foretells rate, opening load of each stage and where it lands, before it is let go', () => {
    const { view } = viewPlanOf('descent', plan, {}, {})
    const predicted = Object.fromEntries(view.predictions.map(p => [p.quantity, p.value]))
    const full = 0.85 * 28
    expect(predicted['descentRate']).toBeCloseTo(Math.sqrt((2 * 60 * STANDARD_GRAVITY) / (1.225 * full)), 1)
    expect(predicted['dragArea']).toBeCloseTo(full, 9)
    const stages = view.loading.tables[0]!.columns
    const at = (key: string) => stages.find(c => c.key === key)!.values as number[]
    // By hand: it falls for 1 s, 9.8 m/s past it: 1.6 · ½ρv² · 0.15 · CdA.
    expect(at('load')[0]).toBeCloseTo(1.6 * 0.5 * densityAt(395) * (STANDARD_GRAVITY ** 2 + 6 ** 2) * 0.15 * full, -1)
    expect(predicted['peakOpeningForce']).toBe(Math.max(...at('load')))
    expect(predicted['landingEast']).toBeGreaterThan(100)
    expect(view.curves['landingArea']!.x.length).toBeGreaterThan(40)
    expect(view.findings.map(f => f.code)).not.toContain('outside-field')
  })

  it('names at its field what is open, opens after the landing, or is missed; and a wind of nothing', () => {
    expect(
      findingsOf({
        ...written({ delay: undefined, dragCoefficient: undefined, layers: [], field: undefined }),
        mass: undefined,
      }),
    ).toEqual(
      expect.arrayContaining([
        'not-said mass stop',
        'not-said loading.dragCoefficient warn',
        'not-said loading.delay warn',
        'not-said loading.layers stop',
        'not-said loading.field warn',
      ]),
    )
    const late = written({
      stages: [
        { share: 0.5, after: 0 },
        { share: 1, after: q(300, 's') },
      ],
    })
    expect(findingsOf(late)).toContain('stage-after-landing loading.stages.1.after stop')
    expect(findingsOf(written({ layers: [{ altitude: 0, speed: 0, from: 0 }] }))).toContain(
      'no-wind loading.layers.0.speed warn',
    )
    const small = [
      [0, 0],
      [20, 0],
      [20, 20],
    ]
    expect(findingsOf(written({ field: small }))).toContain('outside-field loading.field warn')
    const refused = (p: object) => {
      try {
        viewPlanOf('descent', p, {}, {})
        return null
      } catch (e) {
        return (e as { place: { path: string } }).place.path
      }
    }
    expect(
      refused(
        written({
          stages: [
            { share: 0.2, after: 0 },
            { share: 1, after: 0 },
          ],
        }),
      ),
    ).toBe('loading.stages.1.after')
    expect(refused(written({ delay: q(3, 'kg') }))).toBe('loading.delay')
    expect(refused(written({}, { referenceArea: q(0, 'm²') }))).toBe('referenceArea')
  })

  it('is rehearsed with its stages and its wind, and each phase comes back as the drag area that it had', () => {
    const viewed = viewPlanOf('descent', plan, {}, {})
    const drawn = families['descent']!.stages.specimen.draw(viewed.plan, null, 11) as Record<string, unknown>
    const truth = {
      ...drawn,
      full: 24,
      stages: [
        { share: 0.15, at: 0 },
        { share: 1, at: 8 },
      ],
    }
    const { t, channels } = simulatedRigOf('descent', viewed, {}, { seed: 11, truth }).whole(11).blocks[0]!
    const columns = Object.fromEntries(Object.entries({ t, ...channels }).map(([r, y]) => [r, Float64Array.from(y)]))
    const record: StoredRecord = { columns, units: {}, labels: {}, hasClock: true, name: 'A' }
    const proposed = proposeFor('descent', record, { plan, outcome: '' })
    const air = { temperature: q(15, '°C'), pressure: q(1013.25, 'hPa') }
    const seen = { inflation: 'partly', inflatedShare: 0.9, inflatedAt: 90 }
    const { output } = reduceRecord(
      'descent',
      record,
      { ...proposed, ...air, ...seen },
      { plan, view: viewed.view, sensors: {} },
    )
    const phases = output.tables['phases']!.columns as { phase: string[]; dragArea: number[]; openingForce: number[] }
    expect(phases.phase).toEqual(['reefed to 15 %', 'full'])
    // The rig's air has 1.2 kg/m³ throughout.
    const rho = 1.2 / 1.225
    expect(phases.dragArea[1]! / (24 * rho)).toBeNear(1, 0.06)
    expect(phases.dragArea[0]! / (0.15 * 24 * rho)).toBeNear(1, 0.2)
    expect(Math.max(...phases.openingForce)).toBeCloseTo(output.results['peakOpeningForce']!.value!, 6)
    const landed = [output.results['landingEast']!.value!, output.results['landingNorth']!.value!]
    const foretold = ['landingEast', 'landingNorth'].map(k => viewed.view.predictions.find(p => p.quantity === k)!)
    foretold.forEach((p, i) => expect(Math.abs(landed[i]! - p.value)).toBeLessThan(4 * p.u))
    expect(output.results['inflatedShare']).toMatchObject({ value: 0.9 })
    expect(output.results['inflationTime']!.value).toBeGreaterThan(0)
  })
})
