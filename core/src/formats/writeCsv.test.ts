import { describe, expect, it } from 'vitest'
import { fromWords, writeCsv } from './writeCsv'

describe('cells for a spreadsheet', () => {
  it.each(['=1+1', '=cmd|calc', '+SUM(A1)', '-2+3', '-cmd|calc!A0', '@SUM(A1)', '\t=1', '-', '=', '+49 (0) 12'])(
    '%j is words, and comes back as it was',
    cell => {
      const [, second] = writeCsv([['name', cell]])
        .trim()
        .split(/,(.*)/s)
      const inside = second!.replace(/^"|"$/g, '')
      expect(inside.startsWith("'")).toBe(true)
      expect(fromWords(inside)).toBe(cell)
    },
  )

  it.each(['-12', '+3.5', '-1,234.5', '-12 mm', '-3.2e-5', '-4.5\u202fkN', '−5', 'a=b', "it's", "'quoted"])(
    '%j stays as it is',
    cell => {
      const inside = writeCsv([[cell]])
        .trim()
        .replace(/^"|"$/g, '')
      expect(inside).toBe(cell)
      expect(fromWords(inside)).toBe(cell)
    },
  )

  it('leaves numbers alone', () => expect(writeCsv([[-1, 2.5, NaN, null]])).toBe('-1,2.5,,\n'))
})
