import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { findUnit } from '../quantity/index'
import { readHead } from './readTable'
import { nameAlone } from './sniff'

const bytes = (text: string) => new TextEncoder().encode(text)
const mapping = (role: string, column: string) => ({ role, column, unit: findUnit('s'), scale: 1 })

describe('a head of which a person says something', () => {
  it('has its header where it is said to be, though another line holds the same names', () => {
    const file = bytes('Time,Load\nold,names\nTime,Load\n0,1\n1,2\n')
    expect(readHead(file, [mapping('t', 'Time')])).toMatchObject({ headerRow: 1 })
    expect(readHead(file, [mapping('t', 'Time')], { headerRow: 3 })).toMatchObject({
      headerRow: 3,
      firstRow: 4,
      first: ['0', '1'],
    })
    expect(refusal(() => readHead(file, [mapping('t', 'Time')], { headerRow: 2 })).code).toBe('missing-column')
  })

  it('has numbered columns where it has no header', () => {
    const file = bytes('Logger 7\n0;1,5\n1;2,5\n2;3,5\n')
    expect(readHead(file, [mapping('t', 'Column 1')], { delimiter: ';', headerRow: 0 })).toMatchObject({
      names: ['Column 1', 'Column 2'],
      firstRow: 2,
      width: 2,
    })
    expect(refusal(() => readHead(file, [mapping('t', 'Time')], { delimiter: ';', headerRow: 0 }))).toMatchObject({
      code: 'missing-column',
      place: { column: 'Time' },
    })
  })

  it('takes a row of times of day for a row, not for units', () => {
    expect(readHead(bytes('Clock,Load\n10:00:00,1\n10:00:01,2\n'), [mapping('t', 'Clock')])).toMatchObject({
      firstRow: 2,
      units: [],
    })
    expect(readHead(bytes('Clock,Load\nhh:mm,kN\n10:00:01,2\n'), [mapping('t', 'Clock')])).toMatchObject({
      firstRow: 3,
      units: ['hh:mm', 'kN'],
    })
  })
})

describe('a name', () => {
  it('loses a unit in brackets at its end, and nothing else', () => {
    expect(['Acc tip [m/s2]', 'Load (kN)', 'Gauge [left]', '[mm]', 'T2'].map(nameAlone)).toEqual([
      'Acc tip',
      'Load',
      'Gauge [left]',
      '[mm]',
      'T2',
    ])
  })
})
