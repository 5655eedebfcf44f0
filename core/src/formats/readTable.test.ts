import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { alignTable, families, resolveChannels } from '../index'
import { readTable } from './readTable'
import { sniffTable } from './sniff'

const staticRoles = families['static']!.roles
const bytes = (text: string) => new TextEncoder().encode(text)
const MAP = {
  t: { column: 'Time', unit: 's' },
  load: { column: 'Load', unit: 'kN' },
  deflection: { column: 'Tip', unit: 'mm' },
}
const read = (text: string, map: object = MAP) => readTable(bytes(text), resolveChannels(staticRoles, map))
describe('reading a logger’s file', () => {
  it('passes preamble and comments, skips the units row and takes the decimal comma', () => {
    const table = read('# rig 2\nJob 14;x\nTime;Load;Tip\n[s];[kN];[mm]\n0,0;1,5;0,25\n\n0,1;2,5;0,50\n')
    expect(Array.from(table.numbers['load']!)).toEqual([1500, 2500])
    expect(Array.from(table.numbers['deflection']!)).toEqual([0.00025, 0.0005])
    expect(table.warnings).toEqual([])
    expect(table.rows).toEqual([5, 7])
  })

  it('warns where the units row says another unit, and trusts the setup', () => {
    const table = read('Time,Load,Tip\ns,lbf,mm\n0,1,2\n1,2,3\n')
    expect(table.warnings.map(w => w.code)).toEqual(['unit-mismatch'])
    expect(table.numbers['load']![0]).toBe(1000)
  })

  it('reads windows-1252, quotes, old line ends, and the scale before the unit', () => {
    const degree = 0xb0
    const latin = Uint8Array.from([
      ...bytes('Rig at 20 '),
      degree,
      ...bytes('C\rTime,"Load, hook",Tip\r0,"1",2\r1,2,3\r'),
    ])
    const table = readTable(
      latin,
      resolveChannels(staticRoles, { ...MAP, load: { column: 'Load, hook', unit: 'kN', scale: -1 } }),
    )
    expect(Array.from(table.numbers['load']!)).toEqual([-1000, -2000])
  })

  it('takes the words for nothing as gaps, other text as gaps with a warning', () => {
    const table = read('Time,Load,Tip\n0,1,2\n1,n/a,--\n2,oops,3\n3,4,5\n')
    expect(Array.from(table.numbers['load']!)).toEqual([1000, NaN, NaN, 4000])
    expect(table.warnings).toEqual([{ code: 'bad-cell', message: expect.stringContaining('row 4') }])
  })

  it('leaves a broken last row out, and names any other', () => {
    expect(read('Time,Load,Tip\n0,1,2\n1,2\n').warnings.map(w => w.code)).toEqual(['truncated-row'])
    expect(refusal(() => read('Time,Load,Tip\n0,1,2\n1,2\n2,3,4\n'))).toMatchObject({
      code: 'ragged-row',
      place: { row: 3 },
    })
    expect(refusal(() => read('Time,Load,Tip\n0,1,2\n1,2,3,9\n2,3,4\n'))).toMatchObject({
      code: 'ragged-row',
      place: { row: 3 },
    })
    expect(read('Time,Load,Tip,,\n0,1,2,,\n1,2,3,,\n').rows).toHaveLength(2)
  })

  it('refuses with the column that is missing, an empty file and a column of words', () => {
    expect(refusal(() => read('Time,Force,Tip\n0,1,2\n'))).toMatchObject({
      code: 'missing-column',
      place: { path: 'channels.load.column', column: 'Load' },
    })
    expect(refusal(() => read('\n# nothing\n')).code).toBe('empty-file')
    expect(refusal(() => read('Time,Load,Tip\n')).code).toBe('empty-file')
    expect(refusal(() => read('Time,Load,Tip\n0,off,2\n1,off,3\n'))).toMatchObject({
      code: 'no-data',
      place: { column: 'Load' },
    })
  })

  it('leaves out rows without a time, keeps every other gap, and refuses time that goes back, at its row', () => {
    const mappings = resolveChannels(staticRoles, MAP)
    const { t, channels } = alignTable(mappings, read('Time,Load,Tip\n0,1,2\n,9,9\n2,nan,3\n3,4,nan\n'))
    expect(Array.from(t)).toEqual([0, 2, 3])
    expect(Array.from(channels['load']!)).toEqual([1000, NaN, 4000])
    expect(refusal(() => alignTable(mappings, read('Time,Load,Tip\n0,1,2\n,2,3\n2,2,3\n1.5,4,5\n')))).toMatchObject({
      code: 'time-order',
      place: { row: 5 },
    })
  })

  it('refuses a role, a unit or a channel that is not there', () => {
    expect(refusal(() => resolveChannels(staticRoles, { ...MAP, load: { column: 'Load', unit: 'mm' } }))).toMatchObject(
      { code: 'unit-dimension', place: { path: 'channels.load.unit' } },
    )
    expect(refusal(() => resolveChannels(staticRoles, { t: MAP.t, load: MAP.load }))).toMatchObject({
      code: 'missing-channel',
      place: { path: 'channels.deflection' },
    })
    expect(refusal(() => resolveChannels({ t: staticRoles['t']! }, { ...MAP }))).toMatchObject({
      code: 'unknown-channel',
    })
  })
})

describe('looking at a file’s head', () => {
  it('finds dialect, header, units and columns', () => {
    const s = sniffTable(
      bytes('Rig 2, hire bay\nJob,arm A\n\nElapsed,Load Cell,Pot [in]\ns,lbf,\n0.0,9.3,0.25\n0.1,8.2,0.24\n'),
    )
    expect(s).toMatchObject({
      delimiter: ',',
      numbers: { style: 'point' },
      headerRow: 4,
      unitsRow: 5,
      preamble: ['Rig 2, hire bay', 'Job,arm A'],
    })
    expect(s.columns.map(c => [c.name, c.unit])).toEqual([
      ['Elapsed', 's'],
      ['Load Cell', 'lbf'],
      ['Pot [in]', 'in'],
    ])
    expect(sniffTable(bytes('t;F\n0,0;1,5\n0,1;1,6\n'))).toMatchObject({
      delimiter: ';',
      numbers: { style: 'comma' },
      unitsRow: null,
    })
  })

  it('says so when there is no header or nothing at all', () => {
    expect(refusal(() => sniffTable(bytes('0,1,2\n1,2,3\n'))).code).toBe('no-header')
    expect(refusal(() => sniffTable(bytes(''))).code).toBe('empty-file')
  })
})

describe('thousands in a logger’s file', () => {
  const file = (cells: string[]) => bytes(`t;F\n${cells.map((c, i) => `${i};${c}`).join('\n')}\n`)
  const force = (cells: string[], said = {}) =>
    Array.from(
      readTable(
        file(cells),
        resolveChannels({ '*': { label: '', kind: 'any' } }, { F: { column: 'F', unit: 'N' } }),
        said,
      ).numbers['F']!,
    )

  it.each([
    ['a point before decimals elsewhere', ['820', '3,007', '12.5'], [820, 3007, 12.5]],
    ['both signs in one number', ['1,234.5', '2,001'], [1234.5, 2001]],
    ['a comma before decimals elsewhere', ['820', '3.007', '12,5'], [820, 3007, 12.5]],
    ['two separators of a kind', ['1.234.567', '3.007'], [1_234_567, 3007]],
    ['a zero before it', ['0,125', '3,007'], [0.125, 3.007]],
    ['whole numbers beyond a thousand', ['1820', '3.007'], [1820, 3.007]],
    ['three decimals throughout', ['1.820', '3.007'], [1.82, 3.007]],
    ['typographic signs', ['−3,5', '1 234,5'], [-3.5, 1234.5]],
  ])('is told by %s', (_, cells, wanted) => {
    expect(force(cells)).toEqual(wanted)
    expect(sniffTable(file(cells)).numbers.open).toBeUndefined()
  })

  it.each([
    ['3,007', 3007, 3.007],
    ['3.007', 3.007, 3007],
  ])('“%s” beside 820 is asked about, and follows what is said', (text, point, comma) => {
    expect(sniffTable(file(['820', text])).numbers).toEqual({ open: { text, point, comma } })
    expect(force(['820', text], { numbers: 'point' })).toEqual([820, point])
    expect(force(['820', text], { numbers: 'comma' })).toEqual([820, comma])
    expect(readTable(file(['820', text]), [{ role: 'F', column: 'F', unit: null, scale: 1 }]).warnings).toMatchObject([
      { code: 'number-ambiguous' },
    ])
  })

  it('is told by each column for itself where two are written otherwise', () => {
    const mixed = bytes('t;F;d\n2.5;0,5;820\n3.5;2,350;1\n4.5;12,5;2\n')
    const roles = { '*': { label: '', kind: 'any' as const } }
    const map = { t: { column: 't', unit: 's' }, F: { column: 'F', unit: 'N' } }
    expect(sniffTable(mixed).numbers).toEqual({ styles: ['point', 'comma', undefined] })
    const { numbers } = readTable(mixed, resolveChannels(roles, map))
    expect([Array.from(numbers['t']!), Array.from(numbers['F']!)]).toEqual([
      [2.5, 3.5, 4.5],
      [0.5, 2.35, 12.5],
    ])
  })

  it('reads a decimal comma in quotes where commas part the cells', () => {
    const table = readTable(
      bytes('t,F\n0,"0,01"\n1,"0,02"\n'),
      resolveChannels({ '*': { label: '', kind: 'any' } }, { F: { column: 'F', unit: 'N' } }),
    )
    expect(Array.from(table.numbers['F']!)).toEqual([0.01, 0.02])
  })
})
