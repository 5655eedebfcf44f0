import { gzipSync } from 'node:zlib'
import { zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { NewImport } from '../db/records/datasets'
import { plannedChannels, previewFile } from '../db/records/datasets'
import { recordPage } from '../db/records/records'
import { readDataset } from '../db/records/samples'
import { headText } from '../ingest/headBytes'
import { importBytes, readyServer, type TestServer } from './campaign'

/*
 * Logger files as they come: each is five rows of time, a load of 0, 1.5, −3, 4.5 and 1234.5 kN and a way of 1 to 5 mm,
 * written with a quirk. They are read to these numbers, or refused with the place. docs/files.md has the list.
 */

const LOADS = [0, 1.5, -3, 4.5, 1234.5]
const FULL = { t: [0, 0.5, 1, 1.5, 2], load: LOADS.map(v => v * 1000), deflection: [0.001, 0.002, 0.003, 0.004, 0.005] }

interface Quirk {
  name: string
  file: string | Uint8Array
  /** What differs from the five rows; a gap is null. */
  reads?: Partial<Record<keyof typeof FULL, (number | null)[]>>
  change?: Partial<NewImport>
  /** What the page lets somebody choose, where the file does not tell. */
  map?: Record<string, { column: string; unit?: string }>
  warns?: string[]
  refused?: { code: string; row?: number; path?: string }
}

const HEAD = 'Time [s],Load [kN],Way [mm]'
const ROWS = ['0,0,1', '0.5,1.5,2', '1,-3,3', '1.5,4.5,4', '2,1234.5,5']
const lines = (...l: string[]) => l.join('\n') + '\n'
const plain = lines(HEAD, ...ROWS)
const comma = (sep: string) => (r: string) =>
  r
    .split(',')
    .join(sep === ';' ? ';' : sep)
    .replaceAll('.', ',')
const utf16 = (text: string, isBig: boolean, hasMark: boolean) => {
  const all = Buffer.from((hasMark ? '\ufeff' : '') + text, 'utf16le')
  return new Uint8Array(isBig ? all.swap16() : all)
}
const latin1 = (text: string) => new Uint8Array(Buffer.from(text, 'latin1'))
const cells = (f: (c: string[], i: number) => string[]) => ROWS.map((r, i) => f(r.split(','), i).join(','))
const withTime = (stamps: string[]) => cells((c, i) => [stamps[i]!, ...c.slice(1)])
const WHOLE = [0, 1, 2, 3, 4]
const text = (t: string) => new TextEncoder().encode(t)
const RECORDS = LOADS.map((force, i) => ({
  time: `2026-11-24T10:00:0${i / 2}`.replace(/:0(\d)$/, ':0$1.0'),
  force,
  way: i + 1,
}))
const NAMED = {
  t: { column: 'time', unit: 's' },
  load: { column: 'force', unit: 'kN' },
  deflection: { column: 'way', unit: 'mm' },
}

const QUIRKS: Quirk[] = [
  { name: 'a plain table', file: plain },
  { name: 'a mark of UTF-8 in front', file: '\ufeff' + plain },
  { name: 'UTF-16, little end first', file: utf16(plain, false, true) },
  { name: 'UTF-16, big end first', file: utf16(plain, true, true) },
  { name: 'UTF-16 without a mark', file: utf16(plain, false, false) },
  {
    name: 'old western letters',
    file: latin1(lines('Zeit [s];Last [kN];Weg [µm]', ...ROWS.map(comma(';')))),
    reads: { deflection: [1e-6, 2e-6, 3e-6, 4e-6, 5e-6] },
  },
  { name: 'semicolons and decimal commas', file: lines('Time [s];Load [kN];Way [mm]', ...ROWS.map(comma(';'))) },
  { name: 'tabs and decimal commas', file: lines(HEAD.replaceAll(',', '\t'), ...ROWS.map(comma('\t'))) },
  {
    name: 'bars',
    file: lines(HEAD.replaceAll(',', '|'), ...ROWS.map(r => r.replaceAll(',', '|'))),
    change: { reading: { delimiter: '|', headerRow: 1 } },
  },
  { name: 'carriage returns alone', file: plain.replaceAll('\n', '\r') },
  { name: 'line ends of both kinds', file: plain.replace('\n', '\r\n') },
  { name: 'a preamble', file: lines('Logger DX-4', 'Operator: JK', '', plain) },
  {
    name: 'names and values with units before the table',
    file: lines('Rig 2,Yard', 'Scan rate,10 Hz', 'Range,50 kN', '', 'Time,Load,Way', 's,kN,mm', ...ROWS),
  },
  { name: 'names and values before the table', file: lines('Serial,0192', 'Rate,2', 'Place,Yard', '', plain) },
  { name: 'a preamble of comments', file: lines('# made by DX-4', '# 2 Hz', plain) },
  { name: 'a header that is a comment', file: lines('# ' + HEAD, ...ROWS) },
  { name: 'units in a line of their own', file: lines('Time,Load,Way', 's,kN,mm', ...ROWS) },
  { name: 'units in brackets, in a line of their own', file: lines('Time,Load,Way', '[s],[kN],[mm]', ...ROWS) },
  { name: 'names of groups above', file: lines('Clock,Bench,Bench', HEAD, ...ROWS) },
  { name: 'units behind the names', file: lines('Time s,Load kN,Way mm', ...ROWS) },
  {
    name: 'no name above the first column',
    file: lines(',Time [s],Load [kN],Way [mm]', ...ROWS.map((r, i) => `${i},${r}`)),
  },
  {
    name: 'no name above one in the middle',
    file: lines('Time [s],,Load [kN],Way [mm]', ...cells((c, i) => [c[0]!, String(i), ...c.slice(1)])),
  },
  {
    name: 'two columns of one name',
    file: lines('Time [s],Load [kN],Way [mm],Way [mm]', ...cells(c => [...c, '9'])),
    map: {
      t: { column: 'Time [s]', unit: 's' },
      load: { column: 'Load [kN]', unit: 'kN' },
      deflection: { column: 'Way [mm]', unit: 'mm' },
    },
  },
  { name: 'a name over two lines', file: lines('Time [s],"Load\n[kN]",Way [mm]', ...ROWS) },
  { name: 'a delimiter at the end of each row', file: lines(HEAD + ',', ...ROWS.map(r => r + ',')) },
  {
    name: 'every cell in quotes',
    file: lines(
      ...[HEAD, ...ROWS].map(r =>
        r
          .split(',')
          .map(c => `"${c}"`)
          .join(','),
      ),
    ),
  },
  {
    name: 'decimal commas in quotes between commas',
    file: lines(
      HEAD,
      ...ROWS.map(r =>
        r
          .split(',')
          .map(c => `"${c.replace('.', ',')}"`)
          .join(','),
      ),
    ),
  },
  { name: 'thousands in quotes', file: lines(HEAD, ...ROWS).replace('1234.5', '"1,234.5"') },
  {
    name: 'thousands that may be decimals',
    file: lines('t [s];Load [N];Way [mm]', '0;820;1', '1;3,007;2', '2;1,500;3', '3;2,250;4', '4;2,300;5'),
    refused: { code: 'number-ambiguous', path: 'reading.numbers' },
  },
  { name: 'the typographic minus', file: plain.replace('-3', '\u22123') },
  { name: 'a plus before numbers', file: plain.replace('1.5,2', '+1.5,+2') },
  { name: 'powers of ten', file: plain.replace('1234.5', '1.2345E+03').replace('-3', '-3.0e0') },
  {
    name: 'numbers with their unit',
    file: plain.replace('1234.5', '1234.5 kN').replace('4.5', '4.5 kN').replace(',1.5,', ',1.5 kN,'),
  },
  {
    name: 'numbers with their unit, which nothing else says',
    file: lines('Time,Load,Way', ...cells(([t, load, way]) => [`${t} s`, `${load} kN`, `${way}mm`])),
  },
  {
    name: 'numbers with their unit, one of them lost',
    file: lines('Time [s],Load,Way [mm]', ...cells((c, i) => [c[0]!, i === 3 ? 'n.c.' : `${c[1]} kN`, c[2]!])),
    change: { reading: { lost: 'gaps' } },
    reads: { load: [0, 1500, -3000, null, 1_234_500] },
    warns: ['bad-cell'],
  },
  {
    name: 'numbers with two units in one column',
    file: lines('Time [s],Load,Way [mm]', ...cells((c, i) => [c[0]!, i === 3 ? '4500 N' : `${c[1]} kN`, c[2]!])),
    map: {
      t: { column: 'Time [s]', unit: 's' },
      load: { column: 'Load', unit: 'kN' },
      deflection: { column: 'Way [mm]', unit: 'mm' },
    },
    refused: { code: 'no-data', path: 'channels.load.column' },
  },
  {
    name: 'a reading beyond the range',
    file: plain.replace('4.5', 'OVR'),
    refused: { code: 'cells-lost', row: 5, path: 'reading.lost' },
  },
  {
    name: 'a reading beyond the range, taken as a gap',
    file: plain.replace('4.5', 'OVR'),
    change: { reading: { lost: 'gaps' } },
    reads: { load: [0, 1500, -3000, null, 1_234_500] },
    warns: ['bad-cell'],
  },
  {
    name: 'dashes where nothing was read',
    file: plain.replace('-3', '---'),
    change: { reading: { lost: 'gaps' } },
    reads: { load: [0, 1500, null, 4500, 1_234_500] },
  },
  { name: 'empty cells', file: plain.replace('-3', ''), reads: { load: [0, 1500, null, 4500, 1_234_500] } },
  {
    name: 'errors of a sheet',
    file: plain.replace('-3', '#N/A'),
    change: { reading: { lost: 'gaps' } },
    reads: { load: [0, 1500, null, 4500, 1_234_500] },
    warns: ['bad-cell'],
  },
  {
    name: 'a column of a slower logger',
    file: lines(HEAD, ...cells((c, i) => [c[0]!, c[1]!, i % 2 === 0 ? c[2]! : ''])),
    reads: { deflection: [0.001, null, 0.003, null, 0.005] },
  },
  { name: 'a stamp that is missing', file: plain.replace('\n1,-3', '\n,-3'), reads: { t: [0, 0.5, null, 1.5, 2] } },
  {
    name: 'stamps that repeat',
    file: plain.replace('\n1,-3', '\n0.5,-3'),
    refused: { code: 'time-order', row: 4, path: 'reading.repeats' },
  },
  {
    name: 'stamps that repeat, averaged',
    file: lines(HEAD, ...ROWS.flatMap((r, i) => (i === 1 ? ['0.5,1,1', '0.5,2,3'] : [r]))),
    change: { reading: { repeats: 'average' } },
    warns: ['stamps-repeated'],
  },
  {
    name: 'a clock that was begun anew',
    file: lines(HEAD, '0,9,9', '0.5,9,9', ...ROWS),
    refused: { code: 'time-order', row: 4, path: 'reading.jumps' },
  },
  {
    name: 'a clock that was begun anew, cut',
    file: lines(HEAD, '0,9,9', '0.5,9,9', ...ROWS),
    change: { reading: { jumps: 'last' } },
    warns: ['clock-cut'],
  },
  {
    name: 'seconds of the day over midnight',
    file: lines(HEAD, ...withTime(['86398', '86399', '0', '1', '2'])),
    reads: { t: [86398, 86399, 86400, 86401, 86402] },
    warns: ['clock-midnight'],
  },
  {
    name: 'times of day over midnight',
    file: lines(HEAD, ...withTime(['23:59:59.0', '23:59:59.5', '00:00:00.0', '00:00:00.5', '00:00:01.0'])),
    warns: ['clock-stamps', 'clock-midnight'],
  },
  {
    name: 'dates and times',
    file: lines(HEAD, ...withTime(WHOLE.map(s => `2026-11-24 10:00:0${s}`))),
    reads: { t: WHOLE },
    warns: ['clock-stamps'],
  },
  {
    name: 'dates with points',
    file: lines(
      'Zeit;Last [kN];Weg [mm]',
      ...withTime(WHOLE.map(s => `24.11.2026 10:00:0${s}`)).map(r =>
        r.replaceAll(',', ';').replace(/(\d)\.(\d);/, '$1,$2;'),
      ),
    ),
    reads: { t: WHOLE },
    warns: ['clock-stamps'],
  },
  {
    name: 'dates with slashes, the day beyond twelve',
    file: lines(HEAD, ...withTime(WHOLE.map(s => `11/24/2026 10:00:0${s}`))),
    reads: { t: WHOLE },
    warns: ['clock-stamps'],
  },
  {
    name: 'dates with slashes that may be two',
    file: lines(HEAD, ...withTime(WHOLE.map(s => `11/04/2026 10:00:0${s}`))),
    refused: { code: 'date-ambiguous', path: 'reading.dates' },
  },
  {
    name: 'dates with slashes that may be two, as said',
    file: lines(HEAD, ...withTime(['30/12/26', '31/12/26', '01/01/27', '02/01/27', '03/01/27'])),
    change: { reading: { dates: 'day-first' } },
    reads: { t: WHOLE.map(d => d * 86_400) },
  },
  {
    name: 'seconds since 1970, of which nobody says what they are',
    file: lines('timestamp,Load [kN],Way [mm]', ...withTime(WHOLE.map(s => String(1_795_514_400.25 + s / 2)))),
    reads: { t: WHOLE.map(s => 0.25 + s / 2) },
    warns: ['clock-stamps'],
  },
  {
    name: 'milliseconds since 1970',
    file: lines('Epoch [ms],Load [kN],Way [mm]', ...withTime(WHOLE.map(s => String(1_795_514_400_000 + 500 * s)))),
    warns: ['clock-stamps'],
  },
  {
    name: 'columns of blanks',
    file: lines(
      'Time[s]  Load[kN]  Way[mm]',
      ...ROWS.map(r =>
        r
          .split(',')
          .map(c => c.padStart(8))
          .join(' '),
      ),
    ),
    change: { reading: { delimiter: ' ', headerRow: 1 } },
  },
  {
    name: 'no header',
    file: lines(...ROWS),
    map: {
      t: { column: 'Column 1', unit: 's' },
      load: { column: 'Column 2', unit: 'kN' },
      deflection: { column: 'Column 3', unit: 'mm' },
    },
    change: { reading: { headerRow: 0 } },
  },
  { name: 'comments between rows', file: lines(HEAD, ...ROWS.slice(0, 2), '# gain set anew', ...ROWS.slice(2)) },
  { name: 'empty lines between rows', file: lines(HEAD, ...ROWS.slice(0, 2), '', ...ROWS.slice(2), '') },
  { name: 'a last row that breaks off', file: lines(HEAD, ...ROWS) + '2.5,7', warns: ['truncated-row'] },
  { name: 'a row that is too short', file: plain.replace('1.5,4.5,4', '1.5'), refused: { code: 'ragged-row', row: 5 } },
  {
    name: 'words at the end',
    file: lines(HEAD, ...ROWS, 'End of data,,'),
    change: { reading: { lost: 'gaps' } },
    // A row without a time is left out of whatever is worked out.
    reads: { t: [...FULL.t, null], load: [...FULL.load, null], deflection: [...FULL.deflection, null] },
    warns: ['bad-cell'],
  },
  { name: 'a file packed by gzip', file: new Uint8Array(gzipSync(plain)) },
  { name: 'one table in an archive', file: zipSync({ 'run 4/log.csv': text(plain) }) },
  { name: 'one table in an archive, not packed', file: zipSync({ 'log.csv': [text(plain), { level: 0 }] }) },
  {
    name: 'one table in an archive, and what an archiver adds',
    file: zipSync({ 'log.csv': text(plain), '__MACOSX/._log.csv': text('x') }),
  },
  {
    name: 'an archive of which nobody knows where its table ends',
    file: Uint8Array.from([0x50, 0x4b, 3, 4, 10, 0, 8, ...Array<number>(600).fill(0)]),
    refused: { code: 'not-supported' },
  },
  {
    name: 'two tables in an archive',
    file: zipSync({ 'a.csv': text(plain), 'b.csv': text(plain) }),
    refused: { code: 'several-files' },
  },
  { name: 'records of JSON', file: JSON.stringify(RECORDS), map: NAMED },
  { name: 'lines of JSON', file: lines(...RECORDS.map(r => JSON.stringify(r))), map: NAMED },
  {
    name: 'JSON with words where a number was to be',
    file: JSON.stringify(RECORDS.map((r, i) => (i === 3 ? { ...r, force: 'n.c.' } : r))),
    map: NAMED,
    refused: { code: 'cells-lost', row: 4, path: 'reading.lost' },
  },
  {
    name: 'the old binary kind of workbook',
    file: Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1, ...Array<number>(600).fill(0)]),
    refused: { code: 'not-supported' },
  },
  { name: 'nothing in it', file: '', refused: { code: 'empty-file' } },
  { name: 'a header alone', file: lines(HEAD), refused: { code: 'no-header' } },
  {
    name: 'bytes that are no text',
    file: Uint8Array.from([0, 1, 2, 0, 255, 0, 3, 0, 9]),
    refused: { code: 'not-text' },
  },
]

describe('a logger’s file with', () => {
  let server: TestServer
  let testId: number
  beforeAll(async () => ({ server, testId } = await readyServer()))
  afterAll(() => server.close())

  it.each(QUIRKS.map(q => [q.name, q] as const))('%s', async (_, q) => {
    const bytes = typeof q.file === 'string' ? new TextEncoder().encode(q.file) : q.file
    const read = async () => {
      const planned = (await plannedChannels(server.database.read, testId)).filter(p =>
        ['t', 'load', 'deflection'].includes(p.role),
      )
      const said = q.change?.reading ?? {}
      const seen = q.map ? null : previewFile(headText(bytes), planned, {}, said)
      const channels = q.map ?? seen!.guess
      const reading = {
        ...(seen
          ? {
              delimiter: seen.delimiter,
              headerRow: seen.headerRow,
              ...(seen.numbers?.style ? { numbers: seen.numbers.style } : {}),
            }
          : {}),
        ...said,
      }
      const { datasetId } = await importBytes(server, testId, bytes, { ...q.change, channels, reading })
      const { columns } = await readDataset(server.database.read, datasetId)
      const [record] = (await recordPage(server.database.read, datasetId)).records
      return { columns, warnings: record!.warnings.map(w => w.code) }
    }
    if (q.refused) {
      const { row, path, code } = q.refused
      const place = { ...(row === undefined ? {} : { row }), ...(path === undefined ? {} : { path }) }
      await expect(read()).rejects.toMatchObject({ code, place })
      return
    }
    const { columns, warnings } = await read()
    for (const [role, usual] of Object.entries(FULL)) {
      const wanted = q.reads?.[role as keyof typeof FULL] ?? usual
      expect(
        Array.from(columns[role]!, v => (Number.isNaN(v) ? null : Number(v.toPrecision(12)))),
        role,
      ).toEqual(wanted)
    }
    for (const code of q.warns ?? []) expect(warnings).toContain(code)
  })
})
