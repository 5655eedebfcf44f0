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

  it('never show what is no number', () => {
    expect(units.show(null, 'force')).toBe('–')
    expect(units.show(undefined, 'force')).toBe('–')
    expect(units.show(NaN, 'force')).toBe('–')
  })
})
