import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { findUnit, HypometError, type Dimension } from '../index'
import { DIMENSIONLESS } from '../quantity/dimension'
import { siUnitOf } from '../quantity/index'
import { derivative } from './derivative'
import { dimensionOf } from './dimensions'
import { evaluator } from './evaluate'
import { namesIn, parse } from './parse'
import { deriveChannel } from './derived'
import { evaluateRecord } from './record'
import { symbolsOf } from './symbols'

const value = (text: string, names: Record<string, number> = {}) =>
  evaluator(parse(text), Object.keys(names))(Object.values(names))
describe('parser', () => {
  it.each([
    ['2 + 3*4', 14],
    ['(2 + 3)*4', 20],
    ['2^3^2', 512],
    ['-2^2', -4],
    ['(-2)^2', 4],
    ['2^-1', 0.5],
    ['8/4/2', 1],
    ['1e-3*1000', 1],
    ['.5 + 1.', 1.5],
    ['10 − 4 - 3', 3],
    ['max(1, 5, 3) - min(2, 1)', 4],
    ['mean(2, 4) + diff(9, 4)', 8],
    ['sqrt(abs(-16))', 4],
    ['log10(1000) + log(exp(2))', 5],
    ['sin(pi/2) + atan(0)', 1],
  ])('%s', (text, wanted) => expect(value(text)).toBeCloseTo(wanted, 12))

  it.each([
    ['2 +', 4],
    ['(1 + 2', 7],
    ['1 ? 2', 3],
    ['2 2', 3],
    ['sin()', 1],
    ['nosuch(2)', 1],
    ['a + b', 5],
    ['constructor', 1],
    ['__proto__(1)', 1],
    ['toString()', 1],
    [')', 1],
  ])('%s fails at character %i', (text, at) =>
    expect(refusal(() => value(text, { a: 1 }))).toMatchObject({ code: 'expression', place: { column: String(at) } }),
  )

  it('is bounded in length, depth and size', () => {
    for (const text of [
      '1'.repeat(3000),
      '('.repeat(200) + '1' + ')'.repeat(200),
      '-'.repeat(500) + '1',
      Array.from({ length: 900 }, () => '1').join('+'),
    ])
      expect(refusal(() => parse(text)).code).toBe('expression')
  })

  it('throws nothing but its own error, whatever it is given', () => {
    const piece = fc.constantFrom(
      'a',
      '1',
      '+',
      '-',
      '*',
      '/',
      '^',
      '(',
      ')',
      ',',
      'sin',
      ' ',
      '.',
      'e',
      '$',
      '"',
      '`',
      '{',
      '\n',
    )
    fc.assert(
      fc.property(
        fc.array(piece, { maxLength: 40 }).map(p => p.join('')),
        text => {
          try {
            evaluator(parse(text), ['a'])([1])
          } catch (e) {
            return e instanceof HypometError && e.code === 'expression'
          }
          return true
        },
      ),
      { numRuns: 2000 },
    )
  })

  it('lists what it reads', () =>
    expect(namesIn(parse('(vg1 + vg2)/2 - frame*pi + vg1'))).toEqual(['vg1', 'vg2', 'frame']))
})

describe('derivative', () => {
  it('agrees with a difference quotient', () => {
    for (const text of [
      'x^3 - 2*x',
      'sin(x)*exp(-x/3)',
      'sqrt(x)/(1 + x)',
      'log(x) + log10(x) + tan(x/4)',
      'x^x',
      'atan(x)*abs(x - 9)',
      'max(x, 2)*min(x, 5)',
      'mean(x, x^2) - diff(x, 1)',
      '2^x',
    ]) {
      const tree = parse(text)
      const [f, slope] = [evaluator(tree, ['x']), derivative(tree, ['x'], 'x')]
      for (const x of [0.7, 2.5, 4.1])
        expect(slope([x]) / ((f([x + 1e-6]) - f([x - 1e-6])) / 2e-6), `${text} at ${x}`).toBeCloseTo(1, 6)
    }
  })
})

describe('units of an expression', () => {
  const unit = (u: string): Dimension => findUnit(u)!.dimension
  const known = { load: unit('N'), w: unit('m'), w2: unit('mm'), eps: unit('1'), a: unit('m/s²'), angle: unit('deg') }
  const of = (text: string) => dimensionOf(parse(text), known)

  it('follow the arithmetic', () => {
    expect(of('load/(w + w2)')).toEqual(unit('N/m'))
    expect(of('sqrt(w*w2) - mean(w, w2)')).toEqual(unit('m'))
    expect(of('integ(a)')).toEqual(unit('m/s'))
    expect(of('deriv(w)^2')).toEqual(unit('m²/s²'))
    expect(of('lowpass(load, 20)*cos(angle)')).toEqual(unit('N'))
  })

  it('refuse unlike terms, at their place', () => {
    expect(refusal(() => of('w + load'))).toMatchObject({
      code: 'unit-dimension',
      message: expect.stringContaining('m and N cannot be added') as string,
      place: { column: '3' },
    })
    for (const text of ['sin(w)', 'w^eps', 'max(w, load)', 'exp(load)'])
      expect(refusal(() => of(text)).code).toBe('unit-dimension')
    expect(refusal(() => of('nothing')).code).toBe('expression')
  })
})

describe('derived channel', () => {
  const n = 5000
  const channel = (f: (i: number) => number) => Float64Array.from({ length: n }, (_, i) => f(i))
  const source = {
    interval: 0.01,
    channels: { vg1: channel(i => i), vg2: channel(i => i * i), frame: channel(i => (i === 7 ? NaN : Math.sin(i))) },
  }

  it('is the expression at every sample; gaps stay gaps', () => {
    for (const text of [
      '(vg1 + vg2)/2 - frame*0.3',
      '-vg1^2 + 3 - 2/(1 + vg2)',
      'max(vg1, vg2, 100)*abs(frame)',
      '2^(vg1/5000) - sqrt(vg2) + mean(vg1, 3)',
      'vg1 - vg1',
      'diff(vg2, vg1)^2',
    ]) {
      const one = evaluator(parse(text), ['vg1', 'vg2', 'frame'])
      const derived = evaluateRecord(text, source)
      for (let i = 0; i < n; i += 1) {
        const wanted = one([source.channels.vg1[i]!, source.channels.vg2[i]!, source.channels.frame[i]!])
        if (!Object.is(derived[i], wanted) && derived[i] !== wanted)
          expect.unreachable(`${text} at ${i}: ${derived[i]} for ${wanted}`)
      }
    }
  })

  it('looks along the record for slope, integral and low pass', () => {
    expect(evaluateRecord('deriv(vg1)', source)[100]).toBeCloseTo(100, 9)
    expect(evaluateRecord('integ(vg1)', source)[100]).toBeCloseTo((100 * 100 * 0.01) / 2, 9)
    expect(evaluateRecord('lowpass(vg1 + 0, 5) - vg1', source)[2500]).toBeCloseTo(0, 6)
    expect(refusal(() => evaluateRecord('lowpass(vg1, 80)', source)).message).toMatch(/half the sample rate/)
    expect(refusal(() => evaluateRecord('vg1 + nosuch', source)).code).toBe('expression')
  })
})

describe('a derived channel', () => {
  const t = Float64Array.of(0, 1, 2, 3)
  const data: Record<string, Float64Array> = {
    vg1: Float64Array.of(1, 2, 3, 4),
    vg2: Float64Array.of(3, 2, 1, 0),
    load: Float64Array.of(0, 10, 20, 30),
  }
  const units = { vg1: 'm', vg2: 'm', load: 'N', share: '' }
  const derive = (text: string, at = t) => deriveChannel(text, at, units, symbol => Promise.resolve(data[symbol]!))
  it('has the unit that follows from those it is made of', async () => {
    expect(await derive('(vg1 + vg2)/2')).toEqual({ unit: 'm', values: Float64Array.of(2, 2, 2, 2) })
    expect((await derive('load/vg1')).unit).toBe('N/m')
    expect((await derive('deriv(vg1)')).unit).toBe('m/s')
  })
  it('is refused with the place where units part, a channel is not there, or time is uneven', async () => {
    await expect(derive('vg1 + load')).rejects.toMatchObject({ code: 'unit-dimension', place: { column: '5' } })
    await expect(derive('vg1 - nosuch')).rejects.toMatchObject({ code: 'expression', place: { column: '7' } })
    await expect(derive('integ(load)', Float64Array.of(0, 1, 5, 6))).rejects.toThrow(/evenly spaced/)
  })
  it('is written with symbols that any column name gives', () => {
    expect(symbolsOf(['load', 'Oil temperature [°C]', '1st', 'load', 'pi', 'Weg µm'])).toEqual([
      'load',
      'Oil_temperature_C',
      'c1st',
      'load_2',
      'pi_2',
      'Weg_m',
    ])
  })
})

describe('numbers with their units', () => {
  it.each([
    ['1.27 m * 2', 2.54],
    ['50 in + 0', 1.27],
    ['0.25 in', 0.00635],
    ['3 m/s - 1', 2],
    ['12.5 lbf*2', 25 * 4.4482216152605],
    ['20 °C', 293.15],
    ['2 µε', 2e-6],
    ['5 kg/cm2', 5 * 98066.5],
    ['2 ft-lbf', 2 * 0.3048 * 4.4482216152605],
    ['10 %', 0.1],
  ])('%s is %d in SI', (text, si) => {
    expect(value(text, {})).toBeNear(si, 1e-12)
  })

  it('take part in the arithmetic of dimensions', () => {
    const of = (text: string) =>
      siUnitOf(dimensionOf(parse(text), { strain: DIMENSIONLESS, load: findUnit('N')!.dimension }))
    expect(of('1.27 m * strain')).toBe('m')
    expect(of('load/(2 mm)^2')).toBe('Pa')
    expect(() => of('load + 3 mm')).toThrow(/cannot be added/)
    expect(of('max(load, 0)')).toBe('N')
  })

  it('are names where no blank parts them, and no units where none is meant', () => {
    expect(() => value('2m', { m: 1 })).toThrow(/cannot stand here/)
    expect(value('2*m', { m: 3 })).toBe(6)
    expect(() => value('2 parsnips', {})).toThrow(/parsnips/)
    expect(() => value('2 1', {})).toThrow(/cannot stand here/)
  })
})

describe('gaps in what an expression reads', () => {
  const a = Float64Array.of(1, 2, NaN, 4, 5, NaN, NaN, NaN, NaN, 10, 11)
  const of = (text: string) => [...evaluateRecord(text, { channels: { a, b: a.map(() => 1) }, interval: 1 })]

  it('are gaps of it, also where the number would not matter', () => {
    for (const text of ['0*a + b', 'a^0', 'min(a, b)', 'b*a'])
      expect(of(text).map(Number.isNaN), text).toEqual([...a].map(Number.isNaN))
  })

  it('are bridged for the work up to three samples, part it beyond, and stay gaps', () => {
    expect(of('deriv(a)')).toEqual([1, 1, NaN, 1, 1, NaN, NaN, NaN, NaN, 1, 1])
    // ∫ from 1 over a straight line; begun anew past the long gap.
    expect(of('integ(a)')).toEqual([0, 1.5, NaN, 7.5, 12, NaN, NaN, NaN, NaN, 0, 10.5])
    expect(of('lowpass(a, 0.1)').every(Number.isNaN)).toBe(true)
  })
})

describe('moved: a place against what holds it', () => {
  const t = Float64Array.from({ length: 50 }, (_, i) => i / 10)
  const places: Record<string, readonly [number, number, number]> = {
    F1: [0, -0.1, 0],
    F2: [0, 0.1, 0],
    F3: [-0.1, 0, 0],
    P: [1, 0, 0],
  }
  // After 2 s all turn about x and rise; the place sinks by 4 mm besides.
  const channels = Object.fromEntries(
    Object.entries(places).flatMap(([name, [x, y, z]]) =>
      [x, y, z].map((home, axis) => [
        `${name}_${'xyz'[axis]}`,
        t.map(s => {
          const a = s > 2 ? 0.01 : 0
          const turned = [x, y * Math.cos(a) - z * Math.sin(a), y * Math.sin(a) + z * Math.cos(a) + 3 * a][axis]!
          return s > 2 ? turned - (name === 'P' && axis === 2 ? 0.004 : 0) : home
        }),
      ]),
    ),
  )
  const units = Object.fromEntries(Object.keys(channels).map(c => [c, 'm']))
  const derived = (text: string, from = channels) => deriveChannel(text, t, units, s => Promise.resolve(from[s]!))
  const fixture = 'F1_x, F1_y, F1_z, F2_x, F2_y, F2_z, F3_x, F3_y, F3_z'

  it('takes the motion of the fixture off, in the unit of the places', async () => {
    const { values, unit } = await derived(`moved(2 s, P_x, P_y, P_z, 0, 0, -2, ${fixture})`)
    expect(unit).toBe('m')
    expect(values[10]).toBeCloseTo(0, 12)
    expect(values[40]).toBeCloseTo(0.004 * Math.cos(0.01), 9)
    const alone = await derived('moved(2, P_x, P_y, P_z, 0, 0, 1) * 1')
    expect(alone.values[40]).toBeCloseTo(0.026, 9)
  })

  it('gives nothing where the place or too much of the fixture was not seen', async () => {
    const blind = (name: string) => channels[name]!.map((v, i) => (i === 40 ? NaN : v))
    const gone = (...names: string[]) => ({ ...channels, ...Object.fromEntries(names.map(n => [n, blind(n)])) })
    const text = `moved(2 s, P_x, P_y, P_z, 0, 0, 1, ${fixture})`
    expect((await derived(text, gone('P_y'))).values[40]).toBeNaN()
    expect((await derived(text, gone('F1_x'))).values[40]).toBeNaN()
    const four = `${text.slice(0, -1)}, P_x, P_y, P_z)`
    expect((await derived(four, gone('F1_x'))).values[41]).not.toBeNaN()
  })

  it.each([
    ['moved(2 s, P_x, P_y, P_z)', /takes the time at rest, a place/],
    ['moved(2 s, P_x, P_y, P_z, 0, 0, 0)', /direction has a length/],
    ['moved(0 s, P_x, P_y, P_z, 0, 0, 1)', /longer than nothing/],
    ['moved(P_x, P_x, P_y, P_z, 0, 0, 1)', /time at rest is a time/],
    ['moved(2 s, P_x, P_y, P_z, 0, P_x, 1)', /three plain numbers/],
    ['moved(2 s, P_x, P_y, P_z, 0, 0, 1, F1_x, F1_y, F1_z, F1_x, F1_y, F1_z, F1_x, F1_y, F1_z)', /on one line/],
  ])('%s is refused', async (text, why) => expect(derived(text)).rejects.toThrowError(why))
})
