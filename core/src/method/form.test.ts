import { describe, expect, it } from 'vitest'
import { calcList, calcs, runCalc, runMonteCarlo } from '../index'
import { formOf, wordsOf, type FormField } from './form'

const fieldsOf = (f: FormField): FormField[] => [
  f,
  ...(f.type === 'group'
    ? f.fields
    : f.type === 'rows'
      ? f.columns
      : f.type === 'variant'
        ? f.options.flatMap(o => o.fields)
        : []
  ).flatMap(fieldsOf),
]

describe('a form from a schema', () => {
  it('knows quantities by kind, choices, rows and variants of a calculation', () => {
    const form = formOf(calcs['beam']!.settings)
    expect(form).toMatchObject({ type: 'group' })
    const beam = Object.fromEntries((form as { fields: FormField[] }).fields.map(f => [f.key, f]))
    expect(beam['support']).toMatchObject({ type: 'choice', options: ['cantilever', 'simple'], required: true })
    expect(beam['length']).toMatchObject({ type: 'quantity', kind: 'length', title: 'Length', required: true })
    expect(beam['points']).toMatchObject({
      type: 'rows',
      required: false,
      columns: [
        { key: 'x', kind: 'length' },
        { key: 'force', kind: 'force' },
      ],
    })
    expect(formOf(calcs['stored-energy']!.settings)).toMatchObject({
      type: 'variant',
      by: 'kind',
      options: [{ name: 'gas' }, { name: 'liquid' }, { name: 'line' }, { name: 'mass' }, { name: 'rotor' }],
    })
    expect(wordsOf('fullScale')).toBe('Full scale')
  })

  it('has a field of its own for every setting of every calculation', () => {
    for (const calc of calcList)
      expect(
        fieldsOf(formOf(calc.settings))
          .filter(f => f.type === 'free')
          .map(f => `${calc.id}.${f.key}`),
      ).toEqual([])
  })
})

describe('the example of a worksheet', () => {
  it('runs, and every number it gives is one', () => {
    const shown = calcList.filter(c => c.example && !c.roles)
    expect(calcList.filter(c => !c.example).map(c => c.id)).toEqual([])
    for (const calc of shown) {
      const { results, tables } = runCalc({ calc: calc.id, settings: calc.example })
      const cells = Object.values(tables).flatMap(t => Object.values(t.columns).flat())
      expect(
        Object.values(results).some(r => r.value !== null) || cells.some(c => typeof c === 'number'),
        calc.id,
      ).toBe(true)
    }
  })

  it('of a model can be drawn from, and only of a model', () => {
    const drawn = runMonteCarlo({ calc: 'uncertainty', settings: calcs['uncertainty']!.example }, { draws: 20_000 })
    // 18.4 kN over 25.1 mm · 2.05 mm
    expect(drawn.mean / 1e6).toBeCloseTo(18400 / (25.1 * 2.05), -0.5)
    expect(drawn.unit).toBe('Pa')
    expect(drawn.histogram.counts.reduce((a, b) => a + b, 0)).toBeGreaterThan(0.99 * 20_000)
    expect(() => runMonteCarlo({ calc: 'beam', settings: calcs['beam']!.example })).toThrow(
      expect.objectContaining({ code: 'setting-range' }) as Error,
    )
  })
})
