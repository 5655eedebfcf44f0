import { describe, expect, it } from 'vitest'
import { runCalc } from '../index'
import { compareWithPropagation, monteCarlo } from '../uncertainty/monteCarlo'
import { propagate } from '../uncertainty/propagate'
import { fitNormal, fitWeibull, type Observation } from './censoredFit'
import { fitFactorial, type FactorialRun } from './factorial'
import { gaussLegendre } from './gaussLegendre'
import { fitLine } from './line'
import { fitMainEffects, type Trial } from './mainEffects'
import { meanSd } from './mean'
import { noncentralT } from './noncentralT'
import { outliers } from './outliers'
import { predictionBand } from './predictionBand'
import { SeededRandom } from './random'
import { theilSen } from './robustLine'
import { toleranceFactor } from './toleranceFactor'

describe('tolerance factor', () => {
  it('is that of the published tables, for B-basis and A-basis', () => {
    // CMH-17-1G, tables 8.5.10 and 8.5.11.
    for (const [n, k] of [
      [2, 20.581],
      [3, 6.155],
      [5, 3.407],
      [10, 2.355],
      [30, 1.777],
    ] as const)
      expect(toleranceFactor({ n, p: 0.9, gamma: 0.95 })).toBeCloseTo(k, 3)
    for (const [n, k] of [
      [2, 37.094],
      [5, 5.741],
      [10, 3.981],
    ] as const)
      expect(toleranceFactor({ n, p: 0.99, gamma: 0.95 })).toBeCloseTo(k, 3)
  })

  it('comes from a distribution that is the central one at δ = 0, and integrates to its density', () => {
    expect(noncentralT(2.015048, 5, 0).cdf).toBeCloseTo(0.95, 7)
    const [t, dof, delta] = [3.1, 7, 2.2]
    expect((noncentralT(t + 1e-5, dof, delta).cdf - noncentralT(t - 1e-5, dof, delta).cdf) / 2e-5).toBeCloseTo(
      noncentralT(t, dof, delta).pdf,
      8,
    )
    expect(gaussLegendre(5).weights.reduce((a, b) => a + b, 0)).toBeCloseTo(2, 14)
  })

  it('needs two specimens', () =>
    expect(() => runCalc({ calc: 'tolerance-factor', settings: { n: 1 } })).toThrow(
      expect.objectContaining({ code: 'setting-range' }) as Error,
    ))
})

describe('outliers', () => {
  it('are named one after the other', () => {
    expect(outliers([10, 10.2, 9.9, 10.1, 10, 9.8, 14])).toEqual([6])
    expect(outliers([10, 10.2, 9.9, 10.1, 10, 9.8, 14, 30])).toEqual([7, 6])
    expect(outliers([10, 11, 12])).toEqual([])
  })
})

describe('lines', () => {
  const x = [0, 1, 2, 3, 4, 5, 6]
  it('a wild point moves least squares, not the median of slopes', () => {
    const y = x.map(v => 2 * v + 1)
    y[5] = 60
    expect(theilSen(x, y)).toEqual({ slope: 2, intercept: 1 })
    expect(fitLine(x, y).slope).toBeGreaterThan(3)
  })
  it('the prediction band widens away from the middle', () => {
    const band = predictionBand(x, [1.1, 2.9, 5.2, 6.8, 9.1, 11, 12.9])
    expect(band(3).half).toBeLessThan(band(6).half)
    // By hand: s = 0.1536, t(5, 0.975) = 2.5706, √(1 + 1/7) at the middle.
    expect(band(3).half).toBeCloseTo(
      2.5706 * fitLine(x, [1.1, 2.9, 5.2, 6.8, 9.1, 11, 12.9]).residualSd * Math.sqrt(1 + 1 / 7),
      4,
    )
  })
})

describe('censored fits', () => {
  const all = (values: number[], bounds: number[] = []): Observation[] => [
    ...values.map(value => ({ value, isBound: false })),
    ...bounds.map(value => ({ value, isBound: true })),
  ]

  it('without bounds the normal fit is mean and standard deviation', () => {
    const values = [412.1, 405.3, 398.8, 420.6, 409.9, 401.2]
    const { location, scale } = fitNormal(all(values))
    const { mean, sd, n } = meanSd(values)
    expect(location).toBeCloseTo(mean, 9)
    expect(scale).toBeCloseTo(sd * Math.sqrt((n - 1) / n), 9)
  })

  it('recovers what was put in when a third of the sample is only a lower bound', () => {
    const random = new SeededRandom(4)
    const draw = Array.from({ length: 4000 }, () => 100 + 10 * random.normal())
    const { location, scale, locationInterval } = fitNormal(
      all(
        draw.filter(v => v < 104),
        draw.filter(v => v >= 104).map(() => 104),
      ),
    )
    expect(location).toBeNear(100, 0.002)
    expect(scale).toBeNear(10, 0.01)
    expect(locationInterval[0]).toBeLessThan(100.3)
    const weibull = draw.map(() => 50 * (-Math.log(1 - random.uniform())) ** (1 / 3))
    const fit = fitWeibull(
      all(
        weibull.filter(v => v < 55),
        weibull.filter(v => v >= 55).map(() => 55),
      ),
    )
    expect(fit.eta / 50).toBeNear(1, 0.005)
    expect(fit.beta / 3).toBeNear(1, 0.01)
    expect(fit.betaInterval[0]).toBeLessThan(3)
    expect(fit.betaInterval[1]).toBeGreaterThan(3)
  })

  it('stands where the likelihood is flat', () => {
    const data = all([16, 34, 53, 75, 93, 120], [120, 120, 120, 120])
    const { eta, beta } = fitWeibull(data)
    const l = (e: number, b: number) =>
      data.reduce(
        (s, o) => s + (o.isBound ? 0 : Math.log(b / e) + (b - 1) * Math.log(o.value / e)) - (o.value / e) ** b,
        0,
      )
    for (const [e, b] of [
      [1.01, 1],
      [0.99, 1],
      [1, 1.01],
      [1, 0.99],
    ] as const)
      expect(l(eta * e, beta * b)).toBeLessThan(l(eta, beta))
  })

  it('wants two failures', () =>
    expect(() => fitNormal(all([5], [6, 7]))).toThrow(expect.objectContaining({ code: 'too-few' }) as Error))
})

describe('main effects', () => {
  it('of one factor at three levels are the group means about theirs, with the interval of the textbook', () => {
    const trials = ['a', 'b', 'c'].flatMap((steel, i) =>
      [-1, 1].map((d): Trial => ({ settings: { steel }, response: 11 + 10 * i + d })),
    )
    const { mean, effects, dof, residualSd } = fitMainEffects(['steel'], trials)
    expect([mean, dof, residualSd! ** 2]).toEqual([expect.closeTo(21, 12), 3, expect.closeTo(2, 12)])
    expect(effects.map(e => [e.level, Math.round(e.effect * 1e9) / 1e9 + 0])).toEqual([
      ['a', -10],
      ['b', 0],
      ['c', 10],
    ])
    // s·√((1 − 1/L)/n)·t(0.975; 3), t from the table
    for (const e of effects) expect(e.interval![1] - e.effect).toBeCloseTo(Math.sqrt((2 * (2 / 3)) / 2) * 3.182446, 5)
  })

  it('of numbers and levels together, unbalanced, are those that were put in', () => {
    const trials = [
      [1, 'x'],
      [2, 'x'],
      [5, 'x'],
      [1, 'y'],
      [4, 'y'],
      [7, 'y'],
      [3, 'x'],
    ].map(([fillet, temper]): Trial => ({
      settings: { fillet: fillet!, temper: temper! },
      response: 100 + 3 * (fillet as number) + (temper === 'x' ? -5 : 5),
    }))
    const { effects } = fitMainEffects(['fillet', 'temper'], trials)
    expect(effects.map(e => [e.factor, e.level, Math.round(e.effect * 1e9) / 1e9])).toEqual([
      ['fillet', null, 3],
      ['temper', 'x', -5],
      ['temper', 'y', 5],
    ])
    expect(effects[0]!.interval![1]).toBeCloseTo(3, 9)
  })

  it('name what these trials cannot tell apart, and what never varied', () => {
    const trials = [1, 2, 3, 4, 5].map((i): Trial => ({
      settings: { shot: i % 2 ? 'peened' : 'plain', batch: i % 2 ? 'new' : 'old', rig: 'one', fillet: i },
      response: i,
    }))
    const { effects, leftOut } = fitMainEffects(['shot', 'batch', 'rig', 'fillet'], trials)
    expect(leftOut).toEqual([
      { factor: 'batch', aliasOf: ['shot'] },
      { factor: 'rig', aliasOf: [] },
    ])
    expect(effects.find(e => e.factor === 'shot')!.aliases).toEqual(['batch'])
    expect(effects.find(e => e.factor === 'fillet')!.effect).toBeCloseTo(1, 12)
    expect(() => fitMainEffects(['a', 'b'], [{ settings: { a: 1 }, response: 1 }])).toThrow(
      expect.objectContaining({ code: 'data-range' }) as Error,
    )
    expect(() =>
      fitMainEffects(
        ['a', 'b'],
        [1, 2].map(i => ({ settings: { a: i, b: i * i }, response: i })),
      ),
    ).not.toThrow()
  })
})

describe('factorial', () => {
  const levels = (i: number, factors: string[]) =>
    Object.fromEntries(factors.map((f, k) => [f, (i >> k) & 1 ? 1 : -1])) as FactorialRun['levels']

  it('full 2³: effects as put in, nothing aliased', () => {
    const runs = Array.from({ length: 16 }, (_, i): FactorialRun => {
      const l = levels(i % 8, ['A', 'B', 'C'])
      return { levels: l, response: 50 + 4 * l['A']! - 3 * l['B']! + 2 * l['A']! * l['C']! + (i < 8 ? 0.1 : -0.1) }
    })
    const { mean, effects, dof } = fitFactorial(['A', 'B', 'C'], runs)
    expect(mean).toBeCloseTo(50, 10)
    expect(Object.fromEntries(effects.map(e => [e.term, Math.round(e.effect * 1e9) / 1e9]))).toMatchObject({
      A: 8,
      B: -6,
      C: 0,
      'A·C': 4,
      'B·C': 0,
    })
    expect(effects.every(e => e.aliases.length === 0)).toBe(true)
    expect(dof).toBe(9)
    expect(effects[0]!.interval![0]).toBeLessThan(8)
  })

  it('half fraction D = A·B·C: two-factor interactions fall together in pairs, and it says so', () => {
    const runs = Array.from({ length: 8 }, (_, i): FactorialRun => {
      const l = levels(i, ['A', 'B', 'C'])
      return { levels: { ...l, D: (l['A']! * l['B']! * l['C']!) as 1 | -1 }, response: 10 + l['A']! }
    })
    const { effects } = fitFactorial(['A', 'B', 'C', 'D'], runs)
    expect(effects.find(e => e.term === 'A·B')!.aliases).toEqual(['C·D'])
    expect(effects.find(e => e.term === 'A·D')!.aliases).toEqual(['B·C'])
    expect(effects.find(e => e.term === 'B·C')).toBeUndefined()
    expect(effects.every(e => e.interval === null)).toBe(true)
  })
})

describe('nonlinear least squares', () => {
  // NIST Statistical Reference Datasets, nonlinear regression: data and certified values.
  const misra1a = {
    x: [77.6, 114.9, 141.1, 190.8, 239.9, 289, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760],
    y: [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78],
  }
  const danWood = { x: [1.309, 1.471, 1.49, 1.565, 1.611, 1.68], y: [2.138, 3.421, 3.597, 4.34, 4.882, 5.66] }
  const boxBod = { x: [1, 2, 3, 5, 7, 10], y: [109, 149, 149, 191, 213, 224] }
  const rat42 = {
    x: [9, 14, 21, 28, 42, 57, 63, 70, 79],
    y: [8.93, 10.8, 18.59, 22.33, 39.35, 56.11, 61.73, 64.62, 67.08],
  }
  const rat43 = {
    x: Array.from({ length: 15 }, (_, i) => i + 1),
    y: [
      16.08, 33.83, 65.8, 97.2, 191.55, 326.2, 386.87, 520.53, 590.03, 651.92, 724.93, 699.56, 689.96, 637.56, 717.41,
    ],
  }
  const mgh09 = {
    x: [4, 2, 1, 0.5, 0.25, 0.167, 0.125, 0.1, 0.0833, 0.0714, 0.0625],
    y: [0.1957, 0.1947, 0.1735, 0.16, 0.0844, 0.0627, 0.0456, 0.0342, 0.0323, 0.0235, 0.0246],
  }
  const mgh10 = {
    x: Array.from({ length: 16 }, (_, i) => 50 + 5 * i),
    y: [34780, 28610, 23650, 19630, 16370, 13720, 11540, 9744, 8261, 7030, 6005, 5147, 4427, 3820, 3307, 2872],
  }
  const misra1b = [337.99746163, 3.9039091287e-4]
  const misra1c = [636.42725809, 2.0813627256e-4]
  const misra1d = [437.36970754, 3.0227324449e-4]
  const ratkowsky2 = [72.462237576, 2.61807684, 0.067359200066]
  const ratkowsky3 = [699.6415127, 5.2771253025, 0.75962938329, 1.2792483859]
  const kowalik = [0.19280693458, 0.19128232873, 0.12305650693, 0.13606233068]
  const meyer = [5.609636471e-3, 6181.3463463, 345.22363462]
  // Lanczos's sums of exponentials, as they were rounded.
  const lanczos = (rounded: (y: number) => string) => {
    const x = Array.from({ length: 24 }, (_, i) => i * 0.05)
    return {
      x,
      y: x.map(v => Number(rounded(0.0951 * Math.exp(-v) + 0.8607 * Math.exp(-3 * v) + 1.5576 * Math.exp(-5 * v)))),
    }
  }
  const threeExponentials = 'b1*exp(-b2*x) + b3*exp(-b4*x) + b5*exp(-b6*x)'
  const lanczos2 = [0.096251029939, 1.0057332849, 0.86424689056, 3.0078283915, 1.5529016879, 5.00287981]
  const lanczos3 = [0.086816414977, 0.95498101505, 0.84400777463, 2.9515951832, 1.5825685901, 4.9863565084]
  it.each([
    [
      'Lanczos2, start 1',
      threeExponentials,
      lanczos(y => y.toPrecision(6)),
      [1.2, 0.3, 5.6, 5.5, 6.5, 7.6],
      lanczos2,
      2.2299428125e-11,
    ],
    [
      'Lanczos2, start 2',
      threeExponentials,
      lanczos(y => y.toPrecision(6)),
      [0.5, 0.7, 3.6, 4.2, 4, 6.3],
      lanczos2,
      2.2299428125e-11,
    ],
    [
      'Lanczos3, start 1',
      threeExponentials,
      lanczos(y => y.toFixed(4)),
      [1.2, 0.3, 5.6, 5.5, 6.5, 7.6],
      lanczos3,
      1.6117193594e-8,
    ],
    [
      'Lanczos3, start 2',
      threeExponentials,
      lanczos(y => y.toFixed(4)),
      [0.5, 0.7, 3.6, 4.2, 4, 6.3],
      lanczos3,
      1.6117193594e-8,
    ],
    ['Misra1b, start 1', 'b1*(1-(1+b2*x/2)^(-2))', misra1a, [500, 1e-4], misra1b, 0.075464681533],
    ['Misra1b, start 2', 'b1*(1-(1+b2*x/2)^(-2))', misra1a, [300, 2e-4], misra1b, 0.075464681533],
    ['Misra1c, start 1', 'b1*(1-(1+2*b2*x)^(-0.5))', misra1a, [500, 1e-4], misra1c, 0.040966836971],
    ['Misra1c, start 2', 'b1*(1-(1+2*b2*x)^(-0.5))', misra1a, [600, 2e-4], misra1c, 0.040966836971],
    ['Misra1d, start 1', 'b1*b2*x/(1+b2*x)', misra1a, [500, 1e-4], misra1d, 0.056419295283],
    ['Misra1d, start 2', 'b1*b2*x/(1+b2*x)', misra1a, [450, 3e-4], misra1d, 0.056419295283],
    ['Rat42, start 1', 'b1/(1+exp(b2-b3*x))', rat42, [100, 1, 0.1], ratkowsky2, 8.0565229338],
    ['Rat42, start 2', 'b1/(1+exp(b2-b3*x))', rat42, [75, 2.5, 0.07], ratkowsky2, 8.0565229338],
    ['Rat43, start 1', 'b1/(1+exp(b2-b3*x))^(1/b4)', rat43, [100, 10, 1, 1], ratkowsky3, 8786.404908],
    ['Rat43, start 2', 'b1/(1+exp(b2-b3*x))^(1/b4)', rat43, [700, 5, 0.75, 1.3], ratkowsky3, 8786.404908],
    ['MGH09, start 1', 'b1*(x^2+x*b2)/(x^2+x*b3+b4)', mgh09, [25, 39, 41.5, 39], kowalik, 3.0750560385e-4],
    ['MGH09, start 2', 'b1*(x^2+x*b2)/(x^2+x*b3+b4)', mgh09, [0.25, 0.39, 0.415, 0.39], kowalik, 3.0750560385e-4],
    ['MGH10, start 1', 'b1*exp(b2/(x+b3))', mgh10, [2, 400000, 25000], meyer, 87.945855171],
    ['MGH10, start 2', 'b1*exp(b2/(x+b3))', mgh10, [0.02, 4000, 250], meyer, 87.945855171],
    ['Misra1a, start 1', 'b1*(1-exp(-b2*x))', misra1a, [500, 1e-4], [238.94212918, 5.5015643181e-4], 0.12455138894],
    ['Misra1a, start 2', 'b1*(1-exp(-b2*x))', misra1a, [250, 5e-4], [238.94212918, 5.5015643181e-4], 0.12455138894],
    ['DanWood, start 1', 'b1*x^b2', danWood, [1, 5], [0.76886226176, 3.8604055871], 4.3173084083e-3],
    ['DanWood, start 2', 'b1*x^b2', danWood, [0.7, 4], [0.76886226176, 3.8604055871], 4.3173084083e-3],
    ['BoxBOD, start 1', 'b1*(1-exp(-b2*x))', boxBod, [1, 1], [213.80940889, 0.54723748542], 1168.0088766],
    ['BoxBOD, start 2', 'b1*(1-exp(-b2*x))', boxBod, [100, 0.75], [213.80940889, 0.54723748542], 1168.0088766],
  ] as const)('%s to eight digits', (_name, expression, data, start, wanted, rss) => {
    const { results } = runCalc({
      calc: 'estimate',
      settings: { expression, parameters: start.map((s, i) => ({ name: `b${i + 1}`, start: s })), data },
    })
    wanted.forEach((w, i) => expect(results[`b${i + 1}`]!.value! / w).toBeCloseTo(1, 8))
    expect(results['rss']!.value! / rss).toBeCloseTo(1, 8)
  })

  it('holds a parameter at its bound, and then claims no error for it', () => {
    const { results, warnings } = runCalc({
      calc: 'estimate',
      settings: {
        expression: 'a + b*x',
        parameters: [
          { name: 'a', start: 1, lower: 0 },
          { name: 'b', start: 1 },
        ],
        data: { x: [0, 1, 2, 3], y: [-1, 0, 1, 2] },
      },
    })
    expect(results['a']!.value).toBe(0)
    expect(results['a']!.u).toBeUndefined()
    expect(warnings.map(w => w.code)).toContain('at-bound')
  })
})

describe('propagation', () => {
  const inputs = [
    { name: 'x', value: 3, u: 0.1, dof: Infinity },
    { name: 'y', value: 4, u: 0.2, dof: Infinity },
  ]
  it('of a sum knows full correlation from none', () => {
    const sum = { value: (v: ArrayLike<number>) => v[0]! + v[1]! }
    expect(propagate(sum, inputs).u).toBeCloseTo(Math.hypot(0.1, 0.2), 12)
    expect(propagate(sum, inputs, [{ a: 'x', b: 'y', r: 1 }]).u).toBeCloseTo(0.3, 10)
    expect(propagate(sum, inputs, [{ a: 'x', b: 'y', r: -1 }]).u).toBeCloseTo(0.1, 10)
  })

  it('by draws takes few degrees of freedom as Student’s t: its standard deviation is √(ν/(ν − 2)) times u', () => {
    for (const dof of [5, 1.5 * 6])
      expect(monteCarlo(v => v[0]!, [{ name: 'x', value: 0, u: 2, dof }], { draws: 400_000 }).u).toBeCloseTo(
        2 * Math.sqrt(dof / (dof - 2)),
        1,
      )
  })

  it('by draws agrees with first order where the model is nearly straight, is repeatable, and can be stopped', () => {
    const product = (v: ArrayLike<number>) => v[0]! * v[1]!
    const mc = monteCarlo(product, inputs, { draws: 100_000, seed: 3, correlations: [{ a: 'x', b: 'y', r: 0.5 }] })
    const first = propagate({ value: product }, inputs, [{ a: 'x', b: 'y', r: 0.5 }])
    expect(mc.u / first.u).toBeCloseTo(1, 2)
    expect((mc.interval[1] - mc.interval[0]) / (2 * 1.96 * first.u)).toBeNear(1, 0.01)
    expect(
      compareWithPropagation(
        monteCarlo(v => v[0]! + v[1]!, inputs, { draws: 1_000_000 }),
        propagate({ value: v => v[0]! + v[1]! }, inputs),
      ).agrees,
    ).toBe(true)
    expect(
      compareWithPropagation(
        monteCarlo(v => (v[0]! - 3) ** 2, inputs),
        propagate({ value: v => (v[0]! - 3) ** 2 }, inputs),
      ).agrees,
    ).toBe(false)
    expect(monteCarlo(product, inputs, { draws: 1000, seed: 3 })).toEqual(
      monteCarlo(product, inputs, { draws: 1000, seed: 3 }),
    )
    expect(() => monteCarlo(product, inputs, { progress: share => share < 0.5 })).toThrow(
      expect.objectContaining({ code: 'cancelled' }) as Error,
    )
    expect(() => monteCarlo(v => Math.sqrt(v[0]! - 3), inputs, { draws: 100 })).toThrow(
      expect.objectContaining({ code: 'data-range' }) as Error,
    )
  })
})
