import { describe, expect, it } from 'vitest'
import { blanksAsTabs } from './dialect'
import { BlockReader } from './blocks'
import { sniffTable } from './sniff'
import { readStamp } from './stamps'
import { refusal } from '../fixtures/refusal'

const bytes = (text: string) => new TextEncoder().encode(text)
const text = (b: Uint8Array) => new TextDecoder().decode(b)

describe('a file’s dialect', () => {
  it.each([
    ['bars', 'Time [s]|Load [kN]\n0|1,5\n1|2,5\n2|3\n', { delimiter: '|', numbers: { style: 'comma' }, headerRow: 1 }],
    [
      'blanks',
      'Rig 4, run 2\n  Time   Load\n   0.0   1.5\n   0.1   2.5\n  10.2 -33.5\n',
      { delimiter: ' ', headerRow: 2 },
    ],
    [
      'a title with a comma of its own',
      'Bench logger, arm B\nTime [s],Load [N],Tip [mm]\n0,1,2\n1,2,3\n',
      { delimiter: ',', headerRow: 2, unitsRow: null },
    ],
    [
      'an index without a name',
      ',Time [s],Load [kN]\n0,0.0,1.5\n1,0.1,2.5\n2,0.2,3.5\n',
      { headerRow: 1, columns: [{ name: 'Column 1' }, { name: 'Time [s]' }, { name: 'Load [kN]' }] },
    ],
    [
      'names beneath those of their groups',
      'Cells,,Stroke,\nA,B,Top,Low\n1,2,3,4\n2,3,4,5\n3,4,5,6\n',
      { headerRow: 2, columns: [{ name: 'A' }, { name: 'B' }, { name: 'Top' }, { name: 'Low' }] },
    ],
    ['rows alone', '0;1,5;3\n1;2,5;3\n2;3,5;3\n', { delimiter: ';', numbers: { style: 'comma' }, headerRow: 0 }],
    ['rows alone after a remark, one column', 'Recorded by hand\n1.5\n2.5\n3.5\n', { delimiter: ' ', headerRow: 0 }],
  ])('is seen: %s', (_what, file, wanted) => {
    expect(sniffTable(bytes(file))).toMatchObject(wanted)
  })

  it('says units behind names, but takes no word or letter for one', () => {
    const units = (names: string[]) =>
      sniffTable(bytes([names, names.map(() => 1), names.map(() => 2)].map(r => r.join(';')).join('\n'))).columns.map(
        c => c.unit,
      )
    expect(units(['Elapsed s', 'Flow cfm', 'Lift in', 'LC1_kN', 'Temp °C', 'Current A'])).toEqual([
      's',
      'cfm',
      'in',
      'kN',
      '°C',
      'A',
    ])
    // An inlet, a channel’s letter, a least value, an outlet.
    expect(units(['Pressure in', 'Channel A', 'Temp min', 'Flow out', 'Load N'])).toEqual([null, null, null, null, 'N'])
  })

  it('is what a person says of it', () => {
    const twice = 'Name,Channel\nA,B\nLoad,Tip\n1,2\n3,4\n5,6\n'
    expect(sniffTable(bytes(twice), { headerRow: 3 }).columns.map(c => c.name)).toEqual(['Load', 'Tip'])
    expect(sniffTable(bytes(twice), { headerRow: 0 }).columns.map(c => c.name)).toEqual(['Column 1', 'Column 2'])
    expect(refusal(() => sniffTable(bytes(twice), { headerRow: 4 }))).toMatchObject({
      code: 'no-header',
      place: { row: 4 },
    })
    expect(sniffTable(bytes('a;b,c\n1;2,5\n2;3,5\n'), { delimiter: ';' }).columns.map(c => c.name)).toEqual([
      'a',
      'b,c',
    ])
  })

  it('of blanks becomes one of tabs, however the text is cut', () => {
    const file = '  Time  "Tip  mm" \r\n 0.0 \t 1.5  \n\n7 8\n'
    const wanted = 'Time\t"Tip  mm"\r\n0.0\t1.5\n\n7\t8\n'
    for (let cut = 0; cut <= file.length; cut++) {
      const through = blanksAsTabs()
      expect(text(through(bytes(file.slice(0, cut)))) + text(through(bytes(file.slice(cut))))).toBe(wanted)
    }
  })
})

describe('a stamp', () => {
  it('is a time of day, or a date and a time, in the ways that mean one thing only', () => {
    const day = Date.UTC(2026, 10, 24) / 1000
    for (const [written, whole, fraction] of [
      ['10:05:07.25', 36_307, 0.25],
      ['0:00', 0, 0],
      ['1:02:03 PM', 46_923, 0],
      ['12:00:00 am', 0, 0],
      ['2026-11-24', day, 0],
      ['2026-11-24T10:05:07,5Z', day + 36_307, 0.5],
      ['24.11.2026 10:05', day + 36_300, 0],
      ['2026/11/24 10:05:07+01:30', day + 36_307 - 5400, 0],
    ] as const)
      expect(readStamp(written), written).toEqual({ whole, fraction })
    for (const other of ['', '11/24/2026 10:00', '10:65:00', '2026-13-01', '1.5', 'noon', 'Z'])
      expect(readStamp(other), other).toBeNull()
  })

  it('counts from a given second in a column of a table, without losing a digit', () => {
    const reader = new BlockReader({
      delimiter: ',',
      width: 2,
      slots: Int32Array.of(0, 1),
      stamps: { slot: 0, base: Date.UTC(2026, 10, 24, 10) / 1000 },
    })
    const file = bytes('2026-11-24 10:00:00.001,1\n2026-11-24 10:00:01.123456,2\nnever,3\n')
    const { columns, bad } = reader.read(file, 0, file.length, 1)
    expect(Array.from(columns[0]!)).toEqual([0.001, 1.123456, NaN])
    expect(bad).toEqual([{ slot: 0, count: 1, firstRow: 3 }])
  })
})
