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
      decimal: '.',
      headerRow: 4,
      unitsRow: 5,
      preamble: ['Rig 2, hire bay', 'Job,arm A'],
    })
    expect(s.columns.map(c => [c.name, c.unit])).toEqual([
      ['Elapsed', 's'],
      ['Load Cell', 'lbf'],
      ['Pot [in]', 'in'],
    ])
    expect(sniffTable(bytes('t;F\n0,0;1,5\n0,1;1,6\n'))).toMatchObject({ delimiter: ';', decimal: ',', unitsRow: null })
  })

  it('says so when there is no header or nothing at all', () => {
    expect(refusal(() => sniffTable(bytes('0,1,2\n1,2,3\n'))).code).toBe('no-header')
    expect(refusal(() => sniffTable(bytes(''))).code).toBe('empty-file')
  })
})
