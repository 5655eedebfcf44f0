import { describe, expect, test } from 'vitest'
import { METRIC } from '../quantity/index'
import { readCurve } from './curve'

const outline = {
  title: 'Load over deflection',
  x: { label: 'Deflection', kind: 'length' as const },
  y: { label: 'Load', kind: 'force' as const },
}

describe('a pasted curve', () => {
  test.each([
    ['0\t0\n10\t1.5\n', 'tabs, units of the campaign'],
    ['mm;kN\n0;0\n10;1,5\n', 'a line of units, decimal commas'],
    ['Deflection [mm], Load [kN]\n0, 0\n10, 1.5', 'units in brackets'],
    ['Deflection\tLoad\nin\tlbf\n0\t0\n0.39370078740157477\t337.2134146506462', 'names, then units'],
    ['0 0\n10 1,5', 'blanks'],
    ['0,0\n10,1.5', 'commas'],
  ])('%j (%s) is 10 mm at 1.5 kN', text => {
    const { x, y } = readCurve(text, outline, METRIC)
    expect(x[1]).toBeCloseTo(0.01, 12)
    expect(y[1]).toBeCloseTo(1500, 6)
  })

  test.each([
    ['0\t0\n10\tx', 'not-a-number', { row: 2, column: 'Load' }],
    ['0\t0\n10', 'ragged-row', { row: 2 }],
    ['kN\tmm\n0\t0\n1\t1', 'unit-dimension', { row: 1, column: 'Deflection' }],
    ['nothing here', 'too-few', {}],
    ['0\t0', 'too-few', {}],
  ])('%j is refused: %s', (text, code, place) =>
    expect(() => readCurve(text, outline, METRIC)).toThrow(expect.objectContaining({ code, place })),
  )
})
