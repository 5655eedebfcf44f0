import '../../test/nuxt-globals'
import { KINDS, type Kind } from '@hypomet/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { useUnits } from './useUnits'

describe.each(['metric', 'imperial'] as const)('%s units', system => {
  const units = useUnits(system)

  it('show in a field what reads back as the same quantity, of every kind', () => {
    for (const kind of Object.keys(KINDS) as Kind[])
      fc.assert(
        fc.property(fc.double({ min: 1e-3, max: 1e6, noNaN: true }), si => {
          const back = units.si(units.input(si, kind), kind)
          // Eight digits of what is shown; a temperature's own zero is far from that of its scale.
          expect(Math.abs(back - si)).toBeLessThan(1e-7 * si + (kind === 'temperature' ? 1e-5 : 0))
        }),
        { numRuns: 20 },
      )
  })

  it('take a bare number in the unit that stands beside the field', () => {
    const typed = units.parse('14', 'length')
    expect(units.si(typed, 'length')).toBeCloseTo(system === 'metric' ? 0.014 : 14 * 0.0254, 9)
  })

  it('say a difference of temperatures without the zero of their scale', () => {
    expect(units.difference(10, 'temperature')).toBe(system === 'metric' ? '10.0\u202f°C' : '18.0\u202f°F')
  })

  it('keep what was typed beside the campaign’s own unit, and say it once where they are one', () => {
    const limit = { comparator: 'atLeast' as const, entered: { value: 3150, unit: 'lbf' }, factor: 1.5 }
    expect(units.limit(limit, 'force')).toBe(
      system === 'metric' ? '≥ 14.01\u202fkN (typed 3150\u202flbf) × 1.5' : '≥ 3150\u202flbf × 1.5',
    )
    const decimal = { ...limit, entered: { value: 14000, unit: 'N' }, factor: 1 }
    expect(units.limit(decimal, 'force')).toBe(
      system === 'metric' ? '≥ 14000\u202fN' : '≥ 3147\u202flbf (typed 14000\u202fN)',
    )
  })

  it('never show what is no number', () => {
    expect(units.show(null, 'force')).toBe('–')
    expect(units.show(undefined, 'force')).toBe('–')
    expect(units.show(NaN, 'force')).toBe('–')
  })
})
