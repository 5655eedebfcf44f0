import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { calcs, runCalc, STANDARD_GRAVITY as g0, type MethodOutput } from '../index'

const calc = (id: string, settings: Record<string, unknown>): MethodOutput =>
  runCalc({ calc: id, settings } as never, null)
const value = (o: MethodOutput, key: string) => o.results[key]!.value!
const column = (o: MethodOutput, table: string, name: string) => o.tables[table]!.columns[name]! as number[]

describe('bags on a span', () => {
  const uniform = {
    stations: [
      { y: 0, load: 300 },
      { y: 4, load: 300 },
    ],
    bagMass: 300 / g0 / 10,
    rows: 8,
  }
  test('a uniform load of ten bags a metre is five bags a row, W·L/2 at the root, and no deviation anywhere', () => {
    const o = calc('bag-plan', uniform)
    expect(column(o, 'rows', 'bags')).toEqual(Array(8).fill(5))
    expect(value(o, 'rootBending')).toBeCloseTo(300 * 4 * 2, 6)
    for (const d of column(o, 'deviation', 'bendingDeviation')) expect(d).toBeCloseTo(0, 6)
  })
  test('from tip or from root, the last rung is the same; the first is the far or the near row', () => {
    const [tip, root] = [calc('bag-plan', uniform), calc('bag-plan', { ...uniform, first: 'root' })]
    expect(column(tip, 'rungs', 'bending').at(-1)).toBeCloseTo(column(root, 'rungs', 'bending').at(-1)!, 9)
    expect([column(tip, 'rungs', 'row')[0], column(root, 'rungs', 'row')[0]]).toEqual([8, 1])
  })
  test('whole bags are never more than half a bag off the load', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 1, max: 900, noNaN: true }), { minLength: 2, maxLength: 9 }),
        fc.integer({ min: 1, max: 20 }),
        (loads, rows) => {
          const o = calc('bag-plan', { stations: loads.map((load, i) => ({ y: i, load })), bagMass: 2.5, rows })
          expect(column(o, 'rows', 'bags').reduce((s, n) => s + n, 0)).toBe(value(o, 'bags'))
          const weight = column(o, 'rows', 'target').reduce((s, t) => s + t, 0)
          expect(Math.abs(value(o, 'bags') * 2.5 * g0 - weight)).toBeLessThanOrEqual(2.5 * g0 * 0.5 + 1e-6)
        },
      ),
    )
  })
})

test('stations carry the target’s total and moment, and their lever tree hangs where the load has its centre', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 10, max: 3000, noNaN: true }), { minLength: 2, maxLength: 7 }),
      fc.integer({ min: 2, max: 6 }),
      (loads, n) => {
        const span = loads.length - 1
        const o = calc('station-plan', {
          stations: loads.map((load, y) => ({ y, load })),
          positions: Array.from({ length: n }, (_, i) => (span * (i + 0.5)) / n),
        })
        const [x, f] = [column(o, 'stations', 'position'), column(o, 'stations', 'force')]
        const total = f.reduce((s, v) => s + v, 0)
        expect(total).toBeCloseTo(value(o, 'totalForce'), 4)
        expect(f.reduce((s, v, i) => s + v * x[i]!, 0) / total).toBeCloseTo(value(o, 'loadCentre'), 6)
        expect(column(o, 'tree', 'position').at(-1)).toBeCloseTo(value(o, 'loadCentre'), 6)
      },
    ),
  )
})

describe('creep life', () => {
  const rows = [
    [0.9, 3.0],
    [0.9, 3.2],
    [0.8, 4.3],
    [0.8, 4.4],
    [0.7, 5.6],
  ].map(([fraction, log]) => ({ fraction: fraction!, time: 10 ** log! }))
  test('without run-outs it is the line of least squares, with n under the scatter', () => {
    const o = calc('creep-life', { rows, serviceFraction: 0.6 })
    // By hand: mean x 0.82, mean y 4.1, Sxy −0.35, Sxx 0.028.
    const slope = -0.35 / 0.028
    expect(value(o, 'slope')).toBeCloseTo(slope, 8)
    const rss = rows.reduce((s, r) => s + (Math.log10(r.time) - (4.1 + slope * (r.fraction - 0.82))) ** 2, 0)
    expect(value(o, 'sigma')).toBeCloseTo(Math.sqrt(rss / 5), 8)
    expect(Math.log10(value(o, 'life'))).toBeCloseTo(4.1 + slope * (0.6 - 0.82), 8)
  })
  test('a run-out can only lengthen the life; two failures are too few', () => {
    const longer = calc('creep-life', {
      rows: [...rows.slice(0, 4), { ...rows[4]!, ranOut: true }],
      serviceFraction: 0.6,
    })
    expect(value(longer, 'life')).toBeGreaterThan(value(calc('creep-life', { rows, serviceFraction: 0.6 }), 'life'))
    expect(() =>
      calc('creep-life', { rows: rows.map((r, i) => ({ ...r, ranOut: i > 1 })), serviceFraction: 0.6 }),
    ).toThrow(expect.objectContaining({ code: 'data-range' }))
  })
})

test('of two normal strengths the chance of the first is Φ of their distance; of any number they add up to one', () => {
  const two = calc('drive-chain', {
    components: [
      { name: 'a', capacity: 100, ratio: 1, cov: 0.1, article: true },
      { name: 'b', capacity: 230, ratio: 2, cov: 0.05 },
    ],
  })
  expect(value(two, 'probabilityArticleFirst')).toBeCloseTo(normalCdf(15 / Math.hypot(10, 5.75), 0, 1), 9)
  const many = calc('drive-chain', {
    components: [1, 2, 3, 4, 5].map(i => ({
      name: `c${i}`,
      capacity: 90 + 7 * i,
      ratio: 1,
      cov: 0.02 * i,
      article: i === 1,
    })),
  })
  expect(column(many, 'components', 'probabilityFirst').reduce((s, p) => s + p, 0)).toBeCloseTo(1, 9)
})

test(
  'a steady wind from the west carries east by its speed times the time; a field is told inside ' + 'from outside',
  () => {
    const o = calc('descent-plan', {
      layers: [{ altitude: 0, speed: 5, from: { value: 270, unit: 'deg' } }],
      rate: 5,
      exitAltitude: 600,
      openingAltitude: 600,
      field: [
        [500, -50],
        [700, -50],
        [700, 50],
        [500, 50],
      ],
    })
    expect([value(o, 'landingEast'), value(o, 'inside')]).toEqual([expect.closeTo(600, 6), 1])
    expect(value(o, 'landingNorth')).toBeCloseTo(0, 6)
    expect(value(o, 'driftBearing')).toBeCloseTo(Math.PI / 2, 9)
  },
)

test('the landing ellipse holds 95 % of what is drawn: a line along the wind, a circle about the exit', () => {
  const west = {
    layers: [{ altitude: 0, speed: 5, from: { value: 270, unit: 'deg' } }],
    rate: 5,
    exitAltitude: 600,
    openingAltitude: 600,
  }
  const none = { speed: 0, direction: 0, rate: 0, exit: 0, draws: 40_000 }
  const line = calc('descent-plan', { ...west, scatter: { ...none, speed: 0.1 } })
  // 600 m of drift with a tenth of scatter, times √5.991.
  expect(value(line, 'ellipseMajor') / (60 * Math.sqrt(5.991))).toBeCloseTo(1, 2)
  expect([value(line, 'ellipseMinor'), value(line, 'ellipseBearing')]).toEqual([
    expect.closeTo(0, 3),
    expect.closeTo(Math.PI / 2, 6),
  ])
  const circle = calc('descent-plan', {
    ...west,
    field: [
      [500, -200],
      [700, -200],
      [700, 200],
      [500, 200],
    ],
    scatter: { ...none, exit: 50 },
  })
  expect(value(circle, 'ellipseMinor') / value(circle, 'ellipseMajor')).toBeGreaterThan(0.97)
  // Within 100 m of east, two standard deviations either side; 200 m north is four.
  expect(value(circle, 'probabilityInside')).toBeCloseTo(0.9544, 2)
})

test('a frame between bars: wave, pulse and ligaments by hand; its drawing closes and has its size', () => {
  const setup = {
    barDiameter: 0.02,
    barModulus: 200e9,
    barDensity: 8000,
    strikerLength: 0.5,
    strikerVelocity: 10,
    ligamentWidth: 0.002,
    thickness: 0.003,
    gaugeLength: 0.004,
    fillet: 0.001,
    frameWidth: 0.012,
    frameHeight: 0.012,
    strength: 500e6,
    gaugeFullScale: 0.002,
  }
  const o = calc('bar-specimen', setup)
  // c = 5000 m/s: ρcv/2 = 200 MPa, 1000 µε; 2L/c = 200 µs; two ligaments of 6 mm² break at 6 kN of the wave's 62.8 kN.
  expect(
    [value(o, 'incidentStress'), value(o, 'incidentStrain'), value(o, 'pulseDuration'), value(o, 'breakForce')].map(v =>
      Number(v.toPrecision(9)),
    ),
  ).toEqual([200e6, 0.001, 200e-6, 6000])
  expect(o.warnings.map(w => w.code)).toEqual(['low-range'])
  const [svg, dxf] = calcs['bar-specimen']!.files!(calcs['bar-specimen']!.settings.parse(setup))
  expect(svg!.text).toContain('width="12.0000mm"')
  expect(dxf!.text.match(/POLYLINE/g)).toHaveLength(2)
  // The window between the ligaments is 8 mm wide and 6 mm high with rounded corners of 1 mm.
  const xs = column(o, 'outline', 'x').filter((_, i) => column(o, 'outline', 'contour')[i] === 2)
  expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(0.002, 12), expect.closeTo(0.01, 12)])
})

test('a flat spectrum has √(W·Δf), one that falls with 1/f √(W₁f₁·ln)', () => {
  const spec = (d: number) =>
    value(
      calc('vibration-spec', {
        breakpoints: [
          { frequency: 20, density: 4 },
          { frequency: 2000, density: d },
        ],
      }),
      'rms',
    )
  expect(spec(4)).toBeCloseTo(Math.sqrt(4 * 1980), 9)
  expect(spec(0.04)).toBeCloseTo(Math.sqrt(80 * Math.log(100)), 9)
})

test(
  'a dumb-bell has m·d²/2 about its middle and nothing about its own line; products turn their sign ' + 'with the side',
  () => {
    const o = calc('mass-properties', {
      items: [
        { name: 'a', mass: 2, position: [1, 1, 0] },
        { name: 'b', mass: 2, position: [-1, -1, 0] },
      ],
    })
    expect([value(o, 'ixx'), value(o, 'iyy'), value(o, 'izz'), value(o, 'ixy')]).toEqual([4, 4, 8, 4])
  },
)

describe('a schedule', () => {
  const tasks = [{ id: 'a', duration: { low: 2, mode: 4, high: 10 } }]
  test('of one task has the chance of the triangle, and its mean length', () => {
    // Working days from Monday to Friday: five; F(5) = 1 − (10 − 5)²/(8·6) by hand.
    const o = calc('schedule', { start: '2026-03-02', due: '2026-03-06', tasks, draws: 200_000, seed: 7 })
    expect(value(o, 'probability')).toBeCloseTo(1 - 25 / 48, 2)
    expect(value(o, 'duration')).toBeCloseTo(28 / 6, 12)
  })
  test('begins a booked task on its day, and says which booking cannot be kept and why', () => {
    const o = calc('schedule', {
      start: '2026-03-02',
      tasks: [
        { id: 'build', duration: 3, resource: 'rig', on: '2026-03-04' },
        { id: 'test', duration: 1, resource: 'rig', on: '2026-03-05' },
      ],
    })
    expect(o.tables['tasks']!.columns['startDate']).toEqual(['2026-03-04', '2026-03-09'])
    expect(o.warnings).toEqual([
      {
        code: 'booking-missed',
        message: '“test” is booked for 2026-03-05, and cannot begin before 2026-03-09: rig is still taken by “build”.',
      },
    ])
  })
  test('keeps one task at a time on a resource, skips holidays, and names a circle', () => {
    const o = calc('schedule', {
      start: '2026-03-06',
      holidays: ['2026-03-09'],
      tasks: [
        { id: 'a', duration: 1, resource: 'rig' },
        { id: 'b', duration: 2, resource: 'rig' },
      ],
    })
    expect(o.tables['tasks']!.columns['startDate']).toEqual(['2026-03-06', '2026-03-10'])
    expect(o.tables['tasks']!.columns['finishDate']).toEqual(['2026-03-06', '2026-03-11'])
    expect(() =>
      calc('schedule', {
        start: '2026-03-02',
        tasks: [
          { id: 'a', duration: 1, after: ['b'] },
          { id: 'b', duration: 1, after: ['a'] },
        ],
      }),
    ).toThrow(/wait for one another: a, b/)
  })
})

test('a model that is twice the test has scale one half; the same shape any other length has MAC 1', () => {
  const o = calc('correlate', {
    model: { x: [0, 10], y: [0, 20] },
    test: { x: [1, 2, 3, 12], y: [1, 2, 3, 9] },
    modesTest: [[1, -2, 3]],
    modesModel: [[-2, 4, -6]],
  })
  expect([value(o, 'scale'), value(o, 'maxDeviation'), value(o, 'maxDeviationAt')]).toEqual([0.5, 3, 3])
  expect(column(o, 'mac', 'mac')).toEqual([1])
  expect(o.warnings.map(w => w.code)).toEqual(['outside-model'])
})

test('pressure and load of a bladder are each other’s inverse; only one of them is said', () => {
  const load = value(calc('bladder', { pressure: 7000, area: 0.4, contactEfficiency: 0.9, filmLoss: 0.1 }), 'load')
  expect(load).toBeCloseTo(7000 * 0.4 * 0.81, 9)
  expect(value(calc('bladder', { load, area: 0.4, contactEfficiency: 0.9, filmLoss: 0.1 }), 'pressure')).toBeCloseTo(
    7000,
    9,
  )
  expect(() => calc('bladder', { load: 1, pressure: 1, area: 1 })).toThrow(
    expect.objectContaining({ code: 'setting-range', place: { path: 'settings.load' } }),
  )
})
