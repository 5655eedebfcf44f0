import { expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { readMoney } from './money'

it.each([
  ['3000', 3000],
  ['3000 DKK', 3000],
  ['dkk 3 000', 3000],
  ['3.000,50 kr.', 3000.5],
  ['kr 12,5', 12.5],
  ['3,000.50 DKK', 3000.5],
])('“%s” is an amount of Danish crowns', (text, value) => expect(readMoney(text, 'DKK')).toBe(value))

it('is refused in another currency, where it may be two, and where it is none', () => {
  expect(refusal(() => readMoney('€ 300', 'DKK'))).toMatchObject({
    code: 'other-currency',
    message: expect.stringContaining('counts in DKK'),
  })
  expect(refusal(() => readMoney('3,000 DKK', 'DKK')).code).toBe('number-ambiguous')
  expect(readMoney('3,000 DKK', 'DKK', 'point')).toBe(3000)
  for (const text of ['much', '', '3000 per day', 'DKK 3 DKK'])
    expect(refusal(() => readMoney(text)).code).toBe('not-a-number')
})
