import { describe, expect, it } from 'vitest'
import {
  contradicts,
  families,
  speaksOf,
  handoverRemarks,
  operatingTables,
  recordOf,
  type OperatingCell,
  type Result,
} from '../index'

const result = (value: number, u = 0, bound: Result['bound'] = 'exact'): Result => ({ value, unit: '', bound, u, k: 2 })
const si = (c: OperatingCell | undefined) => (typeof c === 'object' ? c.value : c)
const limit = (quantity: string, comparator: 'atLeast' | 'atMost', value: number, factor = 1) => ({
  name: quantity,
  quantity,
  comparator,
  value,
  factor,
})
const input = (
  results: Record<string, Result>,
  limits: ReturnType<typeof limit>[],
  settings: Record<string, unknown> = {},
) => ({ results, limits, settings, labels: {}, specimens: [], measure: null })

describe('tables to hand over, by hand', () => {
  it('thermal: 320 W at 22 °C ends at 91 °C ± 1; under 85 °C at 35 °C it may have 320·50/70', () => {
    const [t] = operatingTables(
      input(
        { steadyTemperature: result(364.15, 0.5), power: result(320) },
        [limit('steadyTemperature', 'atMost', 358.15)],
        { ambient: { value: 22, unit: '°C' } },
      ),
      families['thermal']!.stages.handover,
    )
    const row = t!.rows.find(r => Math.abs((si(r[0]) as number) - 308.15) < 1e-9)!
    expect(si(row[1])).toBeCloseTo((320 * 50) / 70, 9)
    expect(t!.rows.every(r => (si(r[0]) as number) < 358.15)).toBe(true)
  })

  it('static: a bound of 5.6 kN ± 16 N with factor 1.5 carries 5584/1.5 over any weight', () => {
    const tables = operatingTables(
      {
        ...input({ maxLoad: result(5600, 8, 'atLeast') }, [limit('maxLoad', 'atLeast', 4800, 1.5)], {
          designLoad: 3200,
        }),
        weights: [1600, 3200],
      },
      families['static']!.stages.handover,
    )
    expect(tables.map(t => t.title)).toEqual(['In service, by the factor that is asked', 'Load factor against weight'])
    expect(si(tables[0]!.rows[0]![4])).toBeCloseTo(5584 / 1.5, 9)
    expect(si(tables[1]!.rows.at(-1)![1])).toBeCloseTo(5584 / 1.5 / 3200, 12)
  })

  it('static: the largest factor of all limits of the load counts, weights are typed, a failed limit bars', () => {
    const tables = (verdict: 'pass' | 'fail', weights: number[]) =>
      operatingTables(
        {
          ...input(
            { maxLoad: result(5600, 8, 'atLeast') },
            [limit('maxLoad', 'atLeast', 4800, 1.5), { ...limit('loadFactor', 'atLeast', 2), verdict } as never],
            { designLoad: 3200 },
          ),
          weights,
        },
        families['static']!.stages.handover,
      )
    expect(tables('pass', []).map(t => t.title)).toEqual(['In service, by the factor that is asked'])
    expect(tables('pass', [1000])[1]!.rows.map(r => r.map(si))).toEqual([[1000, 5584 / 2 / 1000]])
    expect(tables('fail', [1000])[1]!.rows[0]![1]).toMatch(/^none/)
  })

  it('whatever speaks against it stands before it in words', () => {
    const said = { validity: 'valid', cause: 'none', mode: '', place: '', note: '', failed: [] } as const
    expect(handoverRemarks(said)).toEqual([])
    expect(
      handoverRemarks({
        ...said,
        validity: 'valid-with-remarks',
        cause: 'article',
        mode: 'sheared',
        note: 'wet',
        failed: ['Sag'],
      }),
    ).toEqual([
      'This test failed “Sag”: what hangs on it is not handed over.',
      'The article failed in this test: sheared.',
      'The test counts with remarks: wet',
    ])
    expect(handoverRemarks({ ...said, cause: 'fixture' })).toEqual([
      'The test ended by the fixture, not by the article.',
    ])
  })

  it('several specimens: the basis counts where it is lower; wear retires by the band’s edge', () => {
    const specimens = [118e3, 119e3, 120e3, 121e3, 122e3].map((v, i) => ({
      isOwn: true,
      measure: i / 10,
      results: { burstPressure: { value: v - 5e4 * (i / 10), bound: 'exact' as const } },
    }))
    const flat = specimens.map((s, i) => ({
      ...s,
      measure: null,
      results: { burstPressure: { value: 118e3 + 1e3 * i, bound: 'exact' as const } },
    }))
    const [t] = operatingTables({
      ...input({ burstPressure: result(122e3, 100) }, [limit('burstPressure', 'atLeast', 100e3, 4)]),
      specimens: flat,
    })
    // 120 kPa less 3.407 (n = 5) of √2.5 kPa.
    expect(si(t!.rows[0]![4])).toBeNear((120e3 - 3.407 * Math.sqrt(2.5) * 1e3) / 4, 1e-5)
    const wear = operatingTables({
      ...input({}, [limit('burstPressure', 'atLeast', 100e3)]),
      specimens,
      measure: { label: 'Wear', kind: 'ratio' },
    })
    expect(wear.map(w => w.title)).toEqual(['Retirement by wear'])
    const out = wear[0]!.rows.findIndex(r => r[2] === 'out of use from here')
    expect(out).toBeGreaterThan(0)
    expect(wear[0]!.rows.slice(0, out).every(r => r[2] === 'yes')).toBe(true)
  })

  it('descent: the mass goes with the rate squared; nothing is made of what is not there', () => {
    const [t] = operatingTables(
      input({ seaLevelRate: result(5, 0) }, [limit('descentRate', 'atMost', 5.2)], { mass: 90 }),
      families['descent']!.stages.handover,
    )
    expect(si(t!.rows[0]![1])).toBeCloseTo(90 * (5.2 / 5) ** 2, 9)
    // 2000 m: 1.0065 of 1.225 kg/m³ (ISO 2533).
    expect((si(t!.rows[4]![1]) as number) / (si(t!.rows[0]![1]) as number)).toBeCloseTo(1.0065 / 1.225, 3)
    for (const family of Object.values(families).filter(f => f !== undefined))
      expect(operatingTables(input({}, []), family.stages.handover)).toEqual([])
  })
})

describe('how good predictions were', () => {
  it('tells bias, scatter and bands by hand; few are not judged by', () => {
    const five = [1.1, 1.12, 1.08, 1.1, 1.1].map(r => ({ group: 'sheet', predicted: 10, band: 0.5, measured: 10 * r }))
    const [sheet, hand] = recordOf([...five, { group: 'hand', predicted: 10, band: 2, measured: 11 }])
    expect(sheet).toMatchObject({
      n: 5,
      banded: 5,
      inside: 0,
      words: 'Too low by 10 % on average. Their bands were too narrow.',
    })
    expect(sheet!.bias).toBeCloseTo(1.1, 12)
    expect(sheet!.scatter).toBeCloseTo(Math.sqrt(0.0008 / 4), 9)
    expect(hand).toMatchObject({ n: 1, scatter: null, inside: 1, words: 'Too few to judge by.' })
  })

  it('holds a prediction against the configuration that it speaks of', () => {
    const flow = families['flow']!
    expect(speaksOf('', flow, { subject: 'Ported' })).toBe(true)
    expect(speaksOf(' ported', flow, { subject: 'Ported' })).toBe(true)
    expect(speaksOf('As cast', flow, { subject: 'Ported' })).toBe(false)
    expect(speaksOf('As cast', flow, {})).toBe(false)
    // Kinds that measure one thing have no configurations.
    expect(speaksOf('As cast', families['static']!, {})).toBe(true)
  })

  it('counts a bound that contradicts a band as a miss, and one that does not as nothing', () => {
    expect(contradicts(result(12, 0.4, 'atLeast'), 10, 1)).toBe(true)
    expect(contradicts(result(12, 0.6, 'atLeast'), 10, 1)).toBe(false)
    expect(contradicts(result(5, 0, 'atLeast'), 10, 1)).toBe(false)
    expect(contradicts(result(8, 0, { interval: [6, 8.5] }), 10, 1)).toBe(true)
    expect(contradicts(result(20), 10, 1)).toBe(false)
    const own = { group: 'sheet', predicted: 10, band: 1 }
    const [sheet] = recordOf([
      { ...own, measured: 10.5 },
      { ...own, measured: 12, isContradicted: true },
    ])
    expect(sheet).toMatchObject({ n: 2, banded: 2, inside: 1, bias: 1.05 })
    expect(recordOf([{ ...own, measured: 12, isContradicted: true }])[0]).toMatchObject({ bias: null, banded: 1 })
  })
})
