import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { runCalc } from '../index'
import { symmetricEigen } from '../statistics/symmetricEigen'

const calc = (name: string, settings: object) => runCalc({ calc: name, settings } as never, null)
const refused = (name: string, settings: object) => refusal(() => calc(name, settings))

describe('creep life of failures that scatter too little', () => {
  const onLine = [0.9, 0.8, 0.7, 0.6].map(fraction => ({ fraction, time: 10 ** (12 - 10 * fraction) }))

  it('is refused where four lie exactly on a line: the likelihood has no maximum', () => {
    expect(refused('creep-life', { rows: onLine, serviceFraction: 0.5 })).toMatchObject({
      code: 'data-range',
      place: { path: 'settings.rows' },
    })
  })
  it('comes back by the hand’s line as soon as they scatter', () => {
    const rows = onLine.map((r, i) => ({ ...r, time: r.time * 10 ** (i % 2 === 0 ? 0.05 : -0.05) }))
    const { intercept, slope, sigma } = calc('creep-life', { rows, serviceFraction: 0.5 }).results
    // Residuals ± 0.05 at −1.5, −0.5, 0.5, 1.5 steps: slope off by 0.02, and σ² = (Σe² − slope part)/n.
    expect(slope!.value).toBeNear(-10 + 0.2, 1e-6)
    expect(intercept!.value).toBeNear(12 - 0.2 * 0.75, 1e-6)
    expect(sigma!.value).toBeNear(Math.sqrt((4 * 0.0025 - 0.2 ** 2 * 0.05) / 4), 1e-5)
  })
  it('is refused for failures at one share, whatever ran out beside them', () => {
    const rows = [400, 950, 2100].map(time => ({ fraction: 0.85, time }))
    const more = [...rows, { fraction: 0.7, time: 5e5, ranOut: true }]
    expect(refused('creep-life', { rows: more, serviceFraction: 0.5 }).code).toBe('data-range')
  })
})

describe('which part of a chain fails first', () => {
  it('sums to one, however narrow the scatters are beside one another', () => {
    const part = fc.record({
      capacity: fc.double({ min: 50, max: 500, noNaN: true }),
      cov: fc.double({ min: 1e-4, max: 0.3, noNaN: true }),
    })
    fc.assert(
      fc.property(fc.array(part, { minLength: 2, maxLength: 6 }), parts => {
        const components = parts.map((p, i) => ({ name: `part ${i}`, ratio: 1, article: i === 0, ...p }))
        const table = calc('drive-chain', { components }).tables['components']!.columns
        const sum = (table['probabilityFirst'] as number[]).reduce((s, p) => s + p, 0)
        expect(Math.abs(sum - 1)).toBeLessThan(1e-9)
      }),
      { numRuns: 40 },
    )
  })
})

describe('tasks', () => {
  it.each([
    [[{ id: 'a', duration: 1, after: ['a'] }]],
    [
      [
        { id: 'a', duration: 1, after: ['b'] },
        { id: 'b', duration: 1, after: ['a'] },
      ],
    ],
  ])('that wait for each other, or for themselves, are a cycle', tasks =>
    expect(refused('schedule', { start: '2026-03-02', tasks })).toMatchObject({
      code: 'cycle',
      place: { path: 'settings.tasks' },
    }),
  )
})

describe('the uncertainty of a model', () => {
  const input = (name: string, value: unknown, u: unknown) => ({ name, value, u })
  const model = (expression: string, inputs: object[], more: object = {}) =>
    calc('uncertainty', { kind: 'model', expression, inputs, ...more })
  const mm = (value: number) => ({ value, unit: 'mm' })
  const C = (value: number) => ({ value, unit: '°C' })

  it('shifts a temperature and not its u: Stefan’s law by hand', () => {
    const { value, u } = model('5.670374419e-8*T^4', [input('T', C(100), C(0.5))]).results
    const T = 373.15
    expect(value!.value).toBeNear(5.670374419e-8 * T ** 4, 1e-12)
    expect(u!.value).toBeNear(4 * 5.670374419e-8 * T ** 3 * 0.5, 1e-9)
  })
  it('has the unit that follows, or the one that is said where it is of that dimension', () => {
    const area = [input('b', mm(40), mm(0.1)), input('h', mm(2), mm(0.01))]
    expect(model('b*h', area).results['value']!.unit).toBe('m²')
    const work = [input('F', { value: 2, unit: 'N' }, { value: 0.1, unit: 'N' }), ...area]
    expect(model('F*b', work, { unit: 'mJ' }).results['value']!.unit).toBe('J')
    expect(refusal(() => model('b*h', area, { unit: 'N' }))).toMatchObject({
      code: 'unit-dimension',
      place: { path: 'settings.unit' },
    })
    expect(refusal(() => model('b + h*h', area))).toMatchObject({
      code: 'unit-dimension',
      place: { path: 'settings.expression' },
    })
    expect(refusal(() => model('b', [input('b', mm(40), { value: 1, unit: 'N' })]))).toMatchObject({
      code: 'unit-dimension',
      place: { path: 'settings.inputs.0.u' },
    })
  })
  it('takes the correlations of one matrix only, each pair once, none of a thing with itself', () => {
    const inputs = ['a', 'b', 'd'].map(name => input(name, 1, 0.1))
    const at = (...correlations: [string, string, number][]) =>
      refusal(() => model('a + b + d', inputs, { correlations: correlations.map(([a, b, r]) => ({ a, b, r })) })).place
    expect(at(['a', 'a', 0.5])).toMatchObject({ path: 'settings.correlations' })
    expect(at(['a', 'b', 0.5], ['b', 'a', 0.5])).toMatchObject({ path: 'settings.correlations' })
    expect(at(['a', 'b', 0.9], ['b', 'd', 0.9], ['a', 'd', -0.9])).toMatchObject({ path: 'settings.correlations' })
    // Fully correlated: u adds up, 0.3 instead of 0.1·√3.
    const all = [
      { a: 'a', b: 'b', r: 1 },
      { a: 'b', b: 'd', r: 1 },
      { a: 'a', b: 'd', r: 1 },
    ]
    expect(model('a + b + d', inputs, { correlations: all }).results['u']!.value).toBeNear(0.3, 1e-9)
  })
  it('says where first order does not do, and is quiet where it does', () => {
    const codes = (expression: string, value: number, u: number) =>
      model(expression, [input('x', value, u)]).warnings.map(w => w.code)
    expect(codes('x^2', 0, 0.1)).toEqual(['non-linear'])
    expect(codes('x^2', 1, 0.3)).toEqual(['non-linear'])
    expect(codes('x^2', 1, 0.01)).toEqual([])
  })
})

describe('eigenvalues of a symmetric matrix', () => {
  it('add up to its trace, multiply to its determinant, and turn its vectors into themselves', () => {
    const A = [
      [4, 1, -2],
      [1, 2, 0.5],
      [-2, 0.5, 3],
    ]
    const { values, vectors } = symmetricEigen(A)
    expect(values.reduce((s, v) => s + v, 0)).toBeNear(9, 1e-12)
    expect(values.reduce((s, v) => s * v, 1)).toBeNear(4 * (6 - 0.25) - (3 + 1) + -2 * (0.5 + 4), 1e-12)
    values.forEach((value, k) =>
      A.forEach((row, i) => {
        const turned = row.reduce((s, a, j) => s + a * vectors[j]![k]!, 0)
        expect(Math.abs(turned - value * vectors[i]![k]!)).toBeLessThan(1e-12)
      }),
    )
  })
})
