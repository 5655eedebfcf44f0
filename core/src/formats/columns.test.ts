import { zipSync } from 'fflate'
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
  it('of halves, complex numbers, aligned records and dates are read; what is no number is named', async () => {
    expect(shown(await read(bytesOf(WRITTEN.half)))).toEqual({ Column: [0.5, -2, 65504, 2 ** -24] })
    const complex = await read(bytesOf(WRITTEN.complex))
    expect(shown(complex)).toEqual({ 'Column magnitude': [5, 1], 'Column phase': [Math.atan2(4, 3), -Math.PI / 2] })
    expect(complex.columns.map(c => c.unit)).toEqual([null, 'rad'])
    const aligned = await read(bytesOf(WRITTEN.aligned))
    expect(shown(aligned)).toEqual({ n: [1, 2], load: [2.5, -3.5] })
    expect(aligned.left).toEqual(['“name” holds words'])
    // From the full second of the first, to the microsecond.
    const [dates] = (await read(bytesOf(WRITTEN.dates))).columns
    expect(dates).toMatchObject({ unit: 's', from: Date.UTC(2026, 10, 24, 10) / 1000 })
    expect(Array.from(dates!.values)).toEqual([0.250001, 1.750002, NaN])
  })
  it('an archive with a rate, words and an array of another length gives the others, and says so', async () => {
    const mixed = await read(bytesOf(WRITTEN.mixed))
    expect(shown(mixed)).toEqual({ x: [1, 2, 3], y: [4, 5, 6] })
    expect(mixed.about).toBe('NumPy archive of 2 arrays, fs = 500')
    expect(mixed.left).toEqual([
      expect.stringContaining('“names”') as string,
      '“odd” has 2 numbers where the others have 3',
    ])
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
  it('days, times of day and durations are read to the microsecond, by what their style shows', async () => {
    const main = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'
    const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
    const relation = (id: string, type: string, target: string) =>
      `<Relationship Id="${id}" Type="${office}/${type}" Target="${target}"/>`
    const row = (r: number, time: number, load: string) =>
      `<x:row><x:c s="1"><x:v>${time}</x:v></x:c><x:c s="2"><x:v>${(r * 0.25) / 86_400}</x:v></x:c>${load}</x:row>`
    const book = (first: string) =>
      zipSync({
        '[Content_Types].xml': text(['<Types/>']),
        '_rels/.rels': text([`<Relationships>${relation('a', 'officeDocument', 'xl/workbook.xml')}</Relationships>`]),
        'xl/_rels/workbook.xml.rels': text([
          `<Relationships>${relation('s', 'worksheet', '/xl/sheet.xml')}${relation('w', 'sharedStrings', 'words.xml')}`,
          `${relation('f', 'styles', 'styles.xml')}</Relationships>`,
        ]),
        'xl/workbook.xml': text([
          `<workbook ${main} xmlns:r="${office}">${first}<sheets><sheet name="Rig" r:id="s"/></sheets></workbook>`,
        ]),
        'xl/styles.xml': text([
          `<styleSheet ${main}><numFmts><numFmt numFmtId="164" formatCode="[h]:mm:ss.000"/>`,
          '<numFmt numFmtId="165" formatCode="0.00 &quot;days&quot;"/></numFmts>',
          '<cellXfs><xf numFmtId="165"/><xf numFmtId="22"/><xf numFmtId="164"/></cellXfs></styleSheet>',
        ]),
        'xl/words.xml': text([
          `<sst ${main}><si><t>Time</t></si><si><r><t>El</t></r><r><t>apsed</t></r><rPh><t>no</t></rPh></si>`,
          '<si><t>Load [kN]</t></si></sst>',
        ]),
        // Cells without a place of their own, under names with a prefix.
        'xl/sheet.xml': text([
          '<x:worksheet xmlns:x="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><x:sheetData><x:row>',
          [0, 1, 2].map(i => `<x:c t="s"><x:v>${i}</x:v></x:c>`).join(''),
          `</x:row>${row(0, 46_350.5, '<x:c s="0"><x:v>1.5</x:v></x:c>')}`,
          row(1, 46_350.5 + 0.000_25 / 86_400, '<x:c t="e"><x:v>#DIV/0!</x:v></x:c>'),
          row(2, 46_350.5 + 1 / 86_400, '<x:c t="str"><x:f>A1</x:f><x:v>2,5</x:v></x:c>'),
          '</x:sheetData></x:worksheet>',
        ]),
      })
    const { columns } = await read(book(''))
    expect(columns.map(c => [c.name, c.unit, c.from])).toEqual([
      ['Time', 's', Date.UTC(2026, 10, 24, 12) / 1000],
      ['Elapsed', 's', undefined],
      ['Load [kN]', 'kN', undefined],
    ])
    expect(columns.map(c => [...c.values])).toEqual([
      [0, 0.00025, 1],
      [0, 0.25, 0.5],
      [1.5, NaN, 2.5],
    ])
    expect(columns[2]!.lost).toEqual({ count: 1, row: 3 })
    const from1904 = await read(book('<workbookPr date1904="1"/>'))
    expect(from1904.columns[0]!.from! - columns[0]!.from!).toBe(1462 * 86_400)
  })
  it('a look at a large file takes its first rows and says so', async () => {
    const rows = Array.from({ length: 400 }, (_, i) => [{ value: i / 10 }, { value: i }])
    const named = [[{ value: 'Time' }, { value: 'Load' }], ...rows]
    const book = new Uint8Array(await writeWorkbook(named as never).toBuffer())
    for (const [bytes, format] of [
      [book, 'xlsx'],
      [bytesOf(WRITTEN.npz), 'npz'],
      [bytesOf(WRITTEN.wav24), 'wav'],
    ] as const) {
      const whole = await readColumns(bytes, format)
      const most = Math.floor(whole.columns[0]!.values.length / 2)
      const look = await readColumns(bytes, format, {}, format === 'xlsx' ? most + 1 : most)
      expect(look.isCut).toBe(true)
      expect(look.columns.map(c => [...c.values])).toEqual(whole.columns.map(c => [...c.values.subarray(0, most)]))
    }
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
    const stamped = parquetWriteBuffer({
      columnData: [
        { name: 'when', data: [5, 7, 12].map(ms => new Date(Date.UTC(2026, 10, 24) + ms)), type: 'TIMESTAMP' },
        { name: 'Load [kN]', data: [1, null, 3], type: 'DOUBLE' },
      ],
    })
    const [when, load] = (await read(new Uint8Array(stamped))).columns
    expect(when).toMatchObject({ unit: 's', from: Date.UTC(2026, 10, 24) / 1000 })
    expect([Array.from(when!.values), Array.from(load!.values)]).toEqual([
      [0.005, 0.007, 0.012],
      [1, NaN, 3],
    ])
    await expect(read(new Uint8Array(file).subarray(0, 60))).rejects.toMatchObject({ code: 'damaged-file' })
  })
})

describe('universal vibration files', () => {
  const axis = (type: number, label = 'NONE', units = 'NONE') =>
    `${String(type).padStart(10)}    0    0    0 ${label.padEnd(20)} ${units.padEnd(20)}`
  const head = (
    type: number,
    pairs: number,
    spacing: number,
    start: number,
    step: number,
    x = 17,
    { kind = 1, y = axis(12, 'Acceleration', 'm/s2'), under = axis(0) } = {},
  ) => [
    'Shaker run 3',
    'NONE',
    'NONE',
    'NONE',
    'NONE',
    `${String(kind).padStart(5)}         0    1         0        ARM       105   3        ARM         1   3`,
    `${String(type).padStart(10)}${String(pairs).padStart(10)}${String(spacing).padStart(10)}  ` +
      `${start.toExponential(5)}  ${step.toExponential(5)}  0.00000e+00`,
    axis(x),
    y,
    under,
    axis(0),
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
      ['Shaker run 3 · ARM 105 +Z', 'm/s2'],
    ])
    expect(shown(table)).toMatchObject({
      Time: [0, 0.01, 0.02, 0.03, 0.04],
      'Shaker run 3 · ARM 105 +Z': [1, -2, 3, 4, 5],
    })
  })
  it('units are those of their labels, else those of the file, else nobody’s; a response is over its reference', () => {
    const factor = (v: number) => v.toExponential(17).replace('e+', 'D+').padStart(25)
    // Of millimetres a thousand are a metre, of newtons one is.
    const inMillimetres = ['    -1', '   164', `${'10'.padStart(10)}mm (newton)`, factor(1000) + factor(1) + factor(1)]
    const read58 = (o: object, before: string[] = []) => {
      const own = ['    -1', '    58', ...head(2, 2, 1, 0, 0.01, 17, o), [2000, 4000].map(single).join(''), '    -1']
      const [, y] = readVibration(text([...before, ...(before.length > 0 ? ['    -1'] : []), ...own])).columns
      return [y!.name, y!.unit, ...y!.values]
    }
    const [there, here] = ['Shaker run 3 · ARM 105 +Z', 'Shaker run 3 · ARM 105 +Z / ARM 1 +Z']
    expect(read58({ y: axis(12, 'Acceleration', 'g') })).toEqual([there, 'g', 2000, 4000])
    expect(read58({ y: axis(8) })).toEqual([there, null, 2000, 4000])
    expect(read58({ y: axis(8) }, inMillimetres)).toEqual([there, 'm', 2, 4])
    expect(read58({ y: axis(15) }, inMillimetres)).toEqual([there, 'Pa', 2e9, 4e9])
    expect(read58({ y: axis(3) })).toEqual([there, '1', 2000, 4000])
    expect(read58({ kind: 4, y: axis(12), under: axis(13) }, inMillimetres)).toEqual([here, 'm/s²/(N)', 2, 4])
    expect(read58({ kind: 4, y: axis(12, 'Acc', 'mm/s2'), under: axis(13, 'Force', 'kN') })).toEqual([
      here,
      'mm/s2/(kN)',
      2000,
      4000,
    ])
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

describe('JSON', () => {
  const columns = (value: unknown) => read(text([typeof value === 'string' ? value : JSON.stringify(value)]))
  const TABLE = { 'Load [kN]': [1.5, -2, NaN], Way: [0, 1, 2] }
  it.each([
    ['records', [{ 'Load [kN]': 1.5, Way: 0 }, { 'Load [kN]': -2, Way: 1 }, { Way: 2 }]],
    [
      'records that a member holds',
      {
        rig: 'B',
        rows: [
          { 'Load [kN]': 1.5, Way: 0 },
          { 'Load [kN]': -2, Way: '1' },
          { 'Load [kN]': null, Way: 2 },
        ],
      },
    ],
    ['lines of records', '{"Load [kN]": 1.5, "Way": 0}\n{"Load [kN]": -2, "Way": 1}\n\n{"Way": 2}'],
    ['columns', { 'Load [kN]': [1.5, -2, null], Way: [0, 1, 2] }],
    ['columns by the numbers of their rows', { 'Load [kN]': { 0: 1.5, 1: -2, 2: null }, Way: { 0: 0, 1: 1, 2: 2 } }],
    [
      'names and rows',
      {
        columns: ['Load [kN]', 'Way'],
        index: [0, 1, 2],
        data: [
          [1.5, 0],
          [-2, 1],
          [null, 2],
        ],
      },
    ],
    [
      'rows under names',
      [
        ['Load [kN]', 'Way'],
        [1.5, 0],
        [-2, 1],
        [null, 2],
      ],
    ],
  ])('of %s is a table', async (_, value) => {
    const table = await columns(value)
    expect(shown(table)).toEqual(TABLE)
    expect(table.columns[0]!.unit).toBe('kN')
  })
  it('counts stamps from the first, names records within records, and words that are no gaps', async () => {
    const table = await columns([
      { at: '2026-11-24T10:00:00.250Z', load: { cell: 1, state: 'ok' } },
      { at: '2026-11-24T10:00:00.750Z', load: { cell: 'OVR', state: 'ok' } },
    ])
    expect(shown(table)).toEqual({ at: [0.25, 0.75], 'load.cell': [1, NaN], 'load.state': [NaN, NaN] })
    expect(table.columns[0]!.from).toBe(Date.UTC(2026, 10, 24, 10) / 1000)
    expect(table.columns[1]!.lost).toEqual({ count: 1, row: 2 })
  })
  it('that is no table, or breaks off, says so; a heading in brackets is no JSON', async () => {
    await expect(columns({ name: 'B', size: 4 })).rejects.toMatchObject({ code: 'no-header' })
    await expect(columns('{"a": 1}\n{"a": 2')).rejects.toMatchObject({ code: 'damaged-file', place: { row: 2 } })
    expect(formatOf(text(['[Header]', 'a,b', '1,2']))).toBeNull()
  })
})

describe('OpenDocument spreadsheets', () => {
  const cell = (attributes: string, shown = '') =>
    `<table:table-cell ${attributes}><text:p>${shown}</text:p></table:table-cell>`
  const number = (v: number, shown = String(v)) => cell(`office:value-type="float" office:value="${v}"`, shown)
  const word = (w: string) => cell('office:value-type="string"', w)
  const row = (...cells: string[]) => `<table:table-row>${cells.join('')}</table:table-row>`
  const ods = (...rows: string[]) =>
    zipSync({
      mimetype: [text(['application/vnd.oasis.opendocument.spreadsheet']), { level: 0 }],
      'content.xml': text([
        '<?xml version="1.0"?><office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body>',
        `<office:spreadsheet><table:table table:name="Tabelle1">${rows.join('')}`,
        '<table:table-row table:number-rows-repeated="1048000">',
        '<table:table-cell table:number-columns-repeated="16384"/>',
        '</table:table-row></table:table></office:spreadsheet></office:body></office:document-content>',
      ]),
    })
  it('give a sheet’s table, its dates and repeated cells, whatever its numbers look like', async () => {
    const date = (s: string) => cell(`office:value-type="date" office:date-value="2026-11-24T10:00:${s}"`, '24.11.')
    const table = await read(
      ods(
        row(word('Rig 2')),
        row(word('Zeit'), word('Last'), word('Weg')),
        row(word(''), word('kN'), word('mm')),
        row(date('00.5'), number(1.5, '1,50'), number(2)),
        row(date('01.5'), cell('office:value-type="float" office:value="3" table:number-columns-repeated="2"', '3,00')),
        row(date('02.5'), word('#WERT!'), number(4)),
      ),
    )
    expect(shown(table)).toEqual({ Zeit: [0.5, 1.5, 2.5], Last: [1.5, 3, NaN], Weg: [2, 3, 4] })
    expect(table.columns.map(c => c.unit)).toEqual(['s', 'kN', 'mm'])
    expect(table.columns[1]!.lost).toEqual({ count: 1, row: 6 })
    expect(table).toMatchObject({ sheet: 'Tabelle1', headerRow: 2 })
  })
  it('that are damaged say so', async () => {
    await expect(read(ods('<table:table-row>'))).rejects.toMatchObject({ code: 'damaged-file' })
  })
})
