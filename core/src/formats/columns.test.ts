import { parquetWriteBuffer } from 'hyparquet-writer'
import writeWorkbook from 'write-excel-file/node'
import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { WRITTEN } from '../fixtures/written'
import { formatOf, type ColumnTable } from './columns'
import { readColumns } from './readColumns'
import { readNpy } from './npy'
import { readVibration } from './vibration'
import { readWav } from './wav'

const bytesOf = (base64: string) => new Uint8Array(Buffer.from(base64, 'base64'))
const read = (bytes: Uint8Array) => readColumns(bytes, formatOf(bytes)!)
const shown = (t: ColumnTable) => Object.fromEntries(t.columns.map(c => [c.name, Array.from(c.values)]))
const text = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n')

describe('NumPy files', () => {
  it('give tables, tables that lie on their side, records and archives as columns', async () => {
    expect(shown(await read(bytesOf(WRITTEN.table)))).toEqual({
      'Column 1': [0, 0.1, 0.2],
      'Column 2': [1.5, 2.5, -3.25],
    })
    expect(shown(await read(bytesOf(WRITTEN.onSide)))).toEqual({ 'Column 1': [0, 1, 2, 3], 'Column 2': [4, 5, 6, 7] })
    expect(shown(await read(bytesOf(WRITTEN.records)))).toEqual({ t: [0, 0.5], load: [1.5, 2.5] })
    expect(shown(await read(bytesOf(WRITTEN.vector)))).toEqual({ Column: [1, 2, 3] })
    expect(shown(await read(bytesOf(WRITTEN.npz)))).toEqual({ t: [0, 0.1, 0.2], load: [1, 2, 3] })
  })
  it('that break off say so', () => {
    expect(refusal(() => readNpy(bytesOf(WRITTEN.table).subarray(0, 140))).message).toMatch(
      /breaks off before its last number/,
    )
    expect(refusal(() => readNpy(bytesOf(WRITTEN.table).subarray(0, 8))).code).toBe('damaged-file')
  })
})

describe('sound files', () => {
  it('give shares of full scale over time', async () => {
    expect(shown(await read(bytesOf(WRITTEN.wav24)))).toEqual({
      Time: [0, 1 / 48000],
      'Channel 1': [0, -1],
      'Channel 2': [0.5, -1 / 2 ** 23],
    })
  })
  it('that hold no samples, or samples that are packed, say so', () => {
    const wav = bytesOf(WRITTEN.wav24)
    expect(refusal(() => readWav(wav.subarray(0, 36))).code).toBe('damaged-file')
    const packed = wav.slice()
    packed[20] = 2
    expect(refusal(() => readWav(packed)).code).toBe('not-supported')
  })
})

describe('workbooks and Parquet', () => {
  it('a sheet’s table is found under its heading, with its row of units', async () => {
    const cell = (value: string | number | null) => (value === null ? null : { value })
    const rows = [
      ['Rig 2, arm B', null, null],
      [null, null, null],
      ['Time', 'Load', 'Remark'],
      ['s', 'kN', null],
      [0, 1.5, 'on'],
      [0.1, 2.5, null],
      [0.2, 3.5, null],
    ]
    const bytes = new Uint8Array(await writeWorkbook(rows.map(r => r.map(cell)) as never).toBuffer())
    const table = await read(bytes)
    expect(table.columns.map(c => [c.name, c.unit])).toEqual([
      ['Time', 's'],
      ['Load', 'kN'],
      ['Remark', null],
    ])
    expect(shown(table)).toMatchObject({ Time: [0, 0.1, 0.2], Load: [1.5, 2.5, 3.5] })
  })
  it('Parquet columns come by name, with the unit that the name says', async () => {
    const file = parquetWriteBuffer({
      columnData: [
        { name: 'Time [s]', data: [0, 0.5, 1], type: 'DOUBLE' },
        { name: 'Load [kN]', data: [1, 2, 3], type: 'INT32' },
      ],
    })
    const table = await read(new Uint8Array(file))
    expect(table.columns.map(c => [c.name, c.unit, Array.from(c.values)])).toEqual([
      ['Time [s]', 's', [0, 0.5, 1]],
      ['Load [kN]', 'kN', [1, 2, 3]],
    ])
    await expect(read(new Uint8Array(file).subarray(0, 60))).rejects.toMatchObject({ code: 'damaged-file' })
  })
})

describe('universal vibration files', () => {
  const head = (type: number, pairs: number, spacing: number, start: number, step: number, x = 17, y = 12) => [
    'Shaker run 3',
    'NONE',
    'NONE',
    'NONE',
    'NONE',
    '    1         0    1         0       ARM       105   3       ARM         1   3',
    `${String(type).padStart(10)}${String(pairs).padStart(10)}${String(spacing).padStart(10)}  ` +
      `${start.toExponential(5)}  ${step.toExponential(5)}  0.00000e+00`,
    `${String(x).padStart(10)}    0    0    0 NONE                 NONE`,
    `${String(y).padStart(10)}    0    0    0 NONE                 NONE`,
    '         0    0    0    0 NONE                 NONE',
    '         0    0    0    0 NONE                 NONE',
  ]
  const single = (v: number) =>
    v
      .toExponential(5)
      .replace(/e([+-])(\d)$/, 'E$10$2')
      .padStart(13)
  const double = (v: number) =>
    v
      .toExponential(11)
      .replace(/e([+-])(\d)$/, 'E$10$2')
      .padStart(20)

  it('real and even: the abscissa is made of start and step', () => {
    const file = text(['    -1', '    58', ...head(2, 5, 1, 0, 0.01), [1, -2, 3, 4, 5].map(single).join(''), '    -1'])
    expect(formatOf(file)).toBe('vibration')
    const table = readVibration(file)
    expect(table.columns.map(c => [c.name, c.unit])).toEqual([
      ['Time', 's'],
      ['Shaker run 3 · 105 +Z', 'm/s²'],
    ])
    expect(shown(table)).toMatchObject({ Time: [0, 0.01, 0.02, 0.03, 0.04], 'Shaker run 3 · 105 +Z': [1, -2, 3, 4, 5] })
  })
  it('complex, double, uneven: single abscissa beside double parts', () => {
    const file = text([
      '    -1',
      '    58',
      ...head(6, 2, 0, 0, 0, 18),
      single(10) + double(1.5) + double(-0.25),
      single(20) + double(2.5) + double(0.125),
      '    -1',
    ])
    expect(Object.values(shown(readVibration(file)))).toEqual([
      [10, 20],
      [1.5, 2.5],
      [-0.25, 0.125],
    ])
  })
  it('binary', () => {
    const numbers = Buffer.alloc(3 * 4)
    ;[1.5, -2, 0.25].forEach((v, i) => numbers.writeFloatLE(v, 4 * i))
    const file = new Uint8Array(
      Buffer.concat([
        text([
          '    -1',
          '    58b     1     2          11          12           0           0           0           0',
          ...head(2, 3, 1, 5, 0.5),
        ]),
        numbers,
        text(['    -1']),
      ]),
    )
    expect(Object.values(shown(readVibration(file)))).toEqual([
      [5, 5.5, 6],
      [1.5, -2, 0.25],
    ])
  })
  it('that end too early say where', () => {
    expect(
      refusal(() => readVibration(text(['    -1', '    58', ...head(2, 5, 1, 0, 0.01), single(1), '    -1']))).message,
    ).toContain('ends after 1 of 5 numbers')
    expect(refusal(() => readVibration(text(['    -1', '   151', 'x', '    -1']))).code).toBe('damaged-file')
  })
})
