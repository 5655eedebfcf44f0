import { describe, expect, it } from 'vitest'
import { HypometError } from '../error'
import { parseQuantity } from './parse'
import { numberOf, readNumber, styleOf, whyNoNumber, type NumberStyle } from './number'

/* Numbers as they are written in several countries, with what they mean; and those that may mean two things. */

const read = (text: string, style?: NumberStyle): number | string | null => {
  try {
    const found = readNumber(text, style)
    return found && found.rest.trim() === '' ? found.value : found ? `${found.value}|${found.rest.trim()}` : null
  } catch (e) {
    return e instanceof HypometError ? e.code : String(e)
  }
}

const PLAIN: [text: string, value: number][] = [
  ['0', 0],
  ['5', 5],
  ['5000', 5000],
  ['+5', 5],
  ['-5', -5],
  ['−5', -5],
  ['–5', -5],
  ['- 5', -5],
  ['007', 7],
  ['3.2', 3.2],
  ['3,2', 3.2],
  ['.5', 0.5],
  [',5', 0.5],
  ['5.', 5],
  ['5,', 5],
  ['0.125', 0.125],
  ['0,125', 0.125],
  [',125', 0.125],
  ['.125', 0.125],
  ['1234.567', 1234.567],
  ['1234,567', 1234.567],
  ['12,34', 12.34],
  ['1,2345', 1.2345],
  ['1.2345', 1.2345],
  ['0,001', 0.001],
  ['100,5', 100.5],
  ['3.2e-3', 0.0032],
  ['3,2e-3', 0.0032],
  ['3,2E-3', 0.0032],
  ['1,234e3', 1234],
  ['1e6', 1e6],
  ['1E+6', 1e6],
  ['1e−3', 0.001],
  ['4·10^3', 4000],
  ['4×10^-3', 0.004],
  ['4 x 10^3', 4000],
  ['2.5*10^3', 2500],
]
const GROUPED: [text: string, value: number][] = [
  ['1,234.5', 1234.5],
  ['1.234,5', 1234.5],
  ['1,234.567', 1234.567],
  ['1.234,567', 1234.567],
  ['12,345.6', 12_345.6],
  ['12.345,6', 12_345.6],
  ['1,234,567', 1_234_567],
  ['1.234.567', 1_234_567],
  ['1,234,567.8', 1_234_567.8],
  ['1.234.567,8', 1_234_567.8],
  ['12,34,567', 1_234_567],
  ['12,34,567.8', 1_234_567.8],
  ['1 234', 1234],
  ['1 234,5', 1234.5],
  ['1 234.5', 1234.5],
  ['1\u00a0234,5', 1234.5],
  ['1\u202f234\u202f567,8', 1_234_567.8],
  ['12 345 678', 12_345_678],
  ['1’234.5', 1234.5],
  ["1'234'567.8", 1_234_567.8],
  ['-1,234.5', -1234.5],
  ['−1.234,5', -1234.5],
  ['+12 000', 12_000],
]
const OPEN: [text: string, point: number, comma: number][] = [
  ['5,000', 5000, 5],
  ['1,234', 1234, 1.234],
  ['12,345', 12_345, 12.345],
  ['999,999', 999_999, 999.999],
  ['-5,000', -5000, -5],
  ['+1,500', 1500, 1.5],
]
const POINTED: [text: string, point: number, comma: number][] = [
  ['5.000', 5, 5000],
  ['3.125', 3.125, 3125],
  ['40.841', 40.841, 40_841],
  ['-1.500', -1.5, -1500],
]
const NONE = ['', 'heavy', '-', '.', ',', '+-5', 'e5', 'kN 5', '1.2.3', '1,2,3', '1,23,4', '1.234,567.8', '1,234.567,8']

describe('numbers as they are written', () => {
  it.each([...PLAIN, ...GROUPED])('“%s” is one number, whatever the style', (text, value) => {
    expect(read(text)).toBe(value)
    expect(read(text, 'point')).toBe(value)
    expect(read(text, 'comma')).toBe(value)
  })

  it.each(OPEN)('“%s” is asked about, and follows the style', (text, point, comma) => {
    expect(read(text)).toBe('number-ambiguous')
    expect(read(text, 'point')).toBe(point)
    expect(read(text, 'comma')).toBe(comma)
    expect(() => readNumber(text)).toThrow(String(Math.abs(point)))
  })

  it.each(POINTED)(
    '“%s” is what the software writes itself, unless the style has its points between thousands',
    (text, point, comma) => {
      expect(read(text)).toBe(point)
      expect(read(text, 'point')).toBe(point)
      expect(read(text, 'comma')).toBe(comma)
    },
  )

  it.each(NONE)('“%s” is no number', text => {
    expect(typeof read(text)).not.toBe('number')
  })

  it('never loses what follows them', () => {
    expect(read('5 kN')).toBe('5|kN')
    expect(read('5kN')).toBe('5|kN')
    expect(read('5 000 lbf')).toBe('5000|lbf')
    expect(read('2 500 mm')).toBe('2500|mm')
    expect(read('12 in H2O')).toBe('12|in H2O')
    expect(read('3 e')).toBe('3|e')
  })
})

describe('numbers of one sheet', () => {
  it('follow those among them that can be read one way only', () => {
    expect(styleOf(['1,234', '12,5'])).toBe('comma')
    expect(styleOf(['1,234', '1.234.567'])).toBe('comma')
    expect(styleOf(['1,234', '0,125'])).toBe('comma')
    expect(styleOf(['1,234', '12.5'])).toBe('point')
    expect(styleOf(['1,234', '1,234,567'])).toBe('point')
    expect(styleOf(['1,234.5 kN', '7'])).toBe('point')
    expect(styleOf(['1,234', '5', 'strop 2'])).toBeUndefined()
    expect(styleOf(['12,5', '12.5'])).toBeUndefined()
    expect(numberOf('1,234', styleOf(['1,234', '12,5']))).toBe(1.234)
  })

  it('are none where they may be two, and it is said why', () => {
    expect(numberOf('5,000')).toBeNaN()
    expect(whyNoNumber('5,000')).toBe('“5,000” may be 5000 or 5.000: write 5000, or 5.000.')
    expect(whyNoNumber('5 kN')).toBe('“5 kN” is not a number.')
    expect(whyNoNumber('')).not.toBe('')
    expect(whyNoNumber('5000')).toBe('')
  })
})

describe('quantities', () => {
  it('never become a thousandth of what was meant', () => {
    expect(() => parseQuantity('5,000 lbf', 'force')).toThrow(/may be 5000 or 5.000/)
    expect(parseQuantity('5,000 lbf', 'force', 'N', 'point')).toEqual({ value: 5000, unit: 'lbf' })
    expect(parseQuantity('5.000 N', 'force', 'N', 'comma')).toEqual({ value: 5000, unit: 'N' })
    expect(() => parseQuantity('1.2.3 kN', 'force')).toThrow(/number/)
    expect(() => parseQuantity('5 6 kN', 'force')).toThrow(/more than one number/)
  })

  it('in pounds are of what is measured; a mass where a force is wanted is told its force', () => {
    expect(parseQuantity('850 pounds', 'force')).toEqual({ value: 850, unit: 'lbf' })
    expect(parseQuantity('12 pounds', 'mass')).toEqual({ value: 12, unit: 'lb' })
    expect(() => parseQuantity('850 lb', 'force')).toThrow(
      '“lb” is a mass; the force that it weighs is written in lbf.',
    )
    expect(() => parseQuantity('85 kg', 'force')).toThrow(/kgf/)
  })
})
