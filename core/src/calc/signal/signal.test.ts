import { describe, expect, it } from 'vitest'
import { runCalc, type HypometError } from '../../index'

const bytes = (text: string) => new TextEncoder().encode(text)
const table = (n: number, row: (i: number) => string, header = 't,x') =>
  bytes([header, ...Array.from({ length: n }, (_, i) => row(i))].join('\n'))
const sine = table(400, i => `${i / 100},${Math.sin(i / 5)}`)
const channels = { t: { column: 't', unit: 's' }, signal: { column: 'x', unit: 'V' } }
const acceleration = { ...channels, signal: { column: 'x', unit: 'g' } }

function refusal(
  calc: string,
  settings: object,
  data: Uint8Array = sine,
  map: object = channels,
): { code: string; path: string | undefined } {
  try {
    runCalc({ calc, settings, channels: map }, data)
  } catch (e) {
    return { code: (e as HypometError).code, path: (e as HypometError).place.path }
  }
  throw new Error('was not refused')
}

describe('what the signal calculations refuse', () => {
  it.each([
    [
      'a cutoff at half the rate',
      'signal-butterworth',
      { kind: 'low', cutoff: 50 },
      'setting-range',
      'settings.cutoff',
    ],
    [
      'two cutoffs for a low pass',
      'signal-butterworth',
      { kind: 'low', cutoff: [1, 2] },
      'setting-type',
      'settings.cutoff',
    ],
    ['half an order', 'signal-butterworth', { kind: 'low', order: 2.5, cutoff: 5 }, 'setting-range', 'settings.order'],
    ['no kind', 'signal-butterworth', { cutoff: 5 }, 'missing-setting', 'settings.kind'],
    ['a class that does not exist', 'signal-cfc', { cfc: 100 }, 'setting-range', 'settings.cfc'],
    ['a class beyond the rate', 'signal-cfc', { cfc: 60 }, 'setting-range', 'settings.cfc'],
    ['a segment longer than the record', 'signal-welch', { nperseg: 500 }, 'data-range', 'settings.nperseg'],
    ['a turned band', 'signal-welch', { nperseg: 64, band: [20, 10] }, 'setting-range', 'settings.band'],
    [
      'a cutoff in metres',
      'signal-butterworth',
      { kind: 'low', cutoff: { value: 5, unit: 'm' } },
      'unit-dimension',
      'settings.cutoff',
    ],
  ])('%s', (_what, calc, settings, code, path) => expect(refusal(calc, settings)).toEqual({ code, path }))

  it('a record too short, too uneven, or in the wrong unit', () => {
    const low = { kind: 'low', cutoff: 5 }
    expect(
      refusal(
        'signal-butterworth',
        low,
        table(12, i => `${i / 100},1`),
      ).code,
    ).toBe('data-range')
    expect(
      refusal(
        'signal-butterworth',
        low,
        table(1, () => '0,1'),
      ).code,
    ).toBe('data-range')
    expect(
      refusal(
        'signal-butterworth',
        low,
        table(100, i => `${i < 50 ? i / 100 : i / 100 + 0.3},1`),
      ).code,
    ).toBe('uneven-time')
    expect(
      refusal(
        'signal-butterworth',
        low,
        table(100, i => `${i / 100},${i > 40 && i < 46 ? '' : 1}`),
      ).code,
    ).toBe('uneven-time')
    expect(refusal('signal-srs', { fMin: 10, fMax: 40 }).code).toBe('unit-dimension')
    expect(refusal('signal-srs', { fMin: 10, fMax: 40, q: 0.4 }, sine, acceleration)).toEqual({
      code: 'setting-range',
      path: 'settings.q',
    })
    expect(
      refusal(
        'signal-lag',
        { maxLag: 1 },
        table(50, i => `${i},1,2`, 't,x,y'),
        { t: channels.t, a: { column: 'x', unit: 'm' }, b: { column: 'y', unit: 'm' } },
      ).code,
    ).toBe('data-range')
    expect(
      refusal('signal-steps', { holdTolerance: { value: 1, unit: 'mm' }, minHold: 1 }, sine, {
        t: channels.t,
        guide: { column: 'x', unit: 'N' },
      }),
    ).toEqual({ code: 'unit-dimension', path: 'settings.holdTolerance' })
  })
})

describe('what they say beside the result', () => {
  const warnings = (calc: string, settings: object, data = sine, map: object = channels) =>
    runCalc({ calc, settings, channels: map }, data).warnings.map(w => w.code)

  it('filled gaps, a low rate, a lag at its limit', () => {
    expect(
      warnings(
        'signal-butterworth',
        { kind: 'low', cutoff: 5 },
        table(100, i => `${i / 100},${i === 40 ? '' : i}`),
      ),
    ).toEqual(['gap-filled'])
    expect(
      warnings(
        'signal-cfc',
        { cfc: 60 },
        table(200, i => `${i / 500},${i}`),
      ),
    ).toEqual(['low-rate'])
    expect(
      warnings(
        'signal-lag',
        { maxLag: 0.02 },
        table(200, i => `${i / 100},${Math.sin(i / 9)},${Math.sin(i / 9 - 1)}`, 't,x,y'),
        { t: channels.t, a: { column: 'x', unit: 'm' }, b: { column: 'y', unit: 'm' } },
      ),
    ).toEqual(['lag-at-limit'])
  })

  it('results are in the channel’s SI unit, and never NaN', () => {
    const { results } = runCalc(
      {
        calc: 'signal-welch',
        settings: { nperseg: 64 },
        channels: { ...channels, signal: { column: 'x', unit: 'mV' } },
      },
      sine,
    )
    expect(results['rms']).toMatchObject({ unit: 'V', value: expect.closeTo(Math.SQRT1_2 / 1000, 5) as number })
  })
})

describe('uncertainty of a sensor', () => {
  const base = {
    kind: 'sensor',
    unit: 'N',
    fullScale: { value: 10, unit: 'kN' },
    reading: 5000,
    linearity: { value: 0.1, unit: '%' },
  }
  const run = (change: object) => runCalc({ calc: 'uncertainty', settings: { ...base, ...change } })

  it('is normal without repeats, and says when the sensor is too large or too small', () => {
    const { results, warnings } = run({})
    expect(results['u']!.value).toBeCloseTo(10 / Math.sqrt(3), 10)
    expect(results['dof']!.value).toBeNull()
    expect(warnings).toEqual([])
    expect(run({ reading: 1000 }).warnings.map(w => w.code)).toEqual(['low-range'])
    expect(run({ reading: 9500 }).warnings.map(w => w.code)).toEqual(['near-full-scale'])
    expect(() => run({ reading: 11_000 })).toThrow(expect.objectContaining({ code: 'over-range' }) as Error)
  })

  it('wants every part in the sensor’s own dimension', () => {
    expect(() => run({ resolution: { value: 1, unit: 'mm' } })).toThrow(
      expect.objectContaining({ code: 'unit-dimension' }) as Error,
    )
    expect(() => run({ fullScale: { value: 1, unit: 'stone' } })).toThrow(
      expect.objectContaining({ code: 'unit-unknown' }) as Error,
    )
    expect(() => run({ unit: 'parsnip' })).toThrow(expect.objectContaining({ code: 'unit-unknown' }) as Error)
    expect(() => run({ repeats: [5000] })).toThrow(expect.objectContaining({ code: 'setting-range' }) as Error)
  })

  it('of a model refuses an expression that cannot be read, and an input that is not there', () => {
    const model = {
      kind: 'model',
      expression: 'a/b',
      inputs: [
        { name: 'a', value: 1, u: 0.1 },
        { name: 'b', value: 2, u: 0.1 },
      ],
    }
    const code = (change: object) => {
      try {
        return runCalc({ calc: 'uncertainty', settings: { ...model, ...change } }).results['relative']!.value
      } catch (e) {
        return (e as HypometError).code
      }
    }
    expect(code({})).toBeCloseTo(2 * Math.hypot(0.1, 0.05), 4)
    expect(code({ expression: 'a/(b' })).toBe('setting-range')
    expect(code({ expression: 'a/c' })).toBe('setting-range')
    expect(code({ expression: 'sqrt(a - 2*b)' })).toBe('data-range')
    expect(code({ correlations: [{ a: 'a', b: 'z', r: 0.5 }] })).toBe('setting-range')
  })
})
