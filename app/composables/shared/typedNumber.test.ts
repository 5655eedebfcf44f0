import fc from 'fast-check'
import { expect, it } from 'vitest'
import { typedNumber } from './typedNumber'

it('reads back every number that a person could have typed, with either decimal sign and either minus', () => {
  const plain = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e15, max: 1e15 })
  fc.assert(
    fc.property(plain, fc.boolean(), fc.boolean(), (value, isComma, isMinusSign) => {
      let text = String(value)
      if (isComma) text = text.replace('.', ',')
      if (isMinusSign) text = text.replace('-', '−')
      // Nobody types a negative zero.
      expect(typedNumber(text)).toBe(value + 0)
    }),
  )
})

it.each(['', '   ', 'twelve', '1,2,3', '5 mm', '--3', '1.2.3'])('takes “%s” for no number', text =>
  expect(typedNumber(text)).toBeNaN(),
)
