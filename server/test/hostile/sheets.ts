import { bomb, noise, spoilt, text, zip, type Hostile, type Parts } from './bytes'

const TYPES =
  '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">' +
  '<Default Extension="xml" ContentType="application/xml"/>' +
  '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>' +
  '<Override PartName="/xl/workbook.xml" ' +
  'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/>' +
  '<Override PartName="/xl/worksheets/sheet1.xml" ' +
  'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>'
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006/relationships'
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
const relation = (id: string, type: string, target: string) =>
  `<Relationship Id="${id}" Type="${OFFICE}/${type}" Target="${target}"/>`
const relations = (...inner: string[]) =>
  text(`<?xml version="1.0"?><Relationships xmlns="${PACKAGE}">${inner.join('')}</Relationships>`)

export const cell = (ref: string, value: string | number) =>
  typeof value === 'number'
    ? `<c r="${ref}"><v>${value}</v></c>`
    : `<c r="${ref}" t="inlineStr"><is><t>${value}</t></is></c>`
const row = (r: number, ...values: (string | number)[]) =>
  `<row r="${r}">${values.map((v, i) => cell(`${'ABCDEFGH'[i]}${r}`, v)).join('')}</row>`
const HEADER = row(1, 'Time [s]', 'Load [kN]', 'Way [mm]')
const FIVE = [2, 3, 4, 5, 6].map(r => row(r, r - 2, 2 * (r - 2), r)).join('')
const sheet = (rows: string, before = '') =>
  text(`<?xml version="1.0"?>${before}<worksheet xmlns="${MAIN}"><sheetData>${rows}</sheetData></worksheet>`)

/** Parts of a workbook of one sheet. */
export function parts(rows: string, { before = '', strings = '' } = {}): Parts {
  return {
    '[Content_Types].xml': text(TYPES),
    '_rels/.rels': relations(relation('r1', 'officeDocument', 'xl/workbook.xml')),
    'xl/workbook.xml': text(
      `<?xml version="1.0"?><workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets>` +
        '<sheet name="Data" sheetId="1" r:id="r1"/></sheets></workbook>',
    ),
    'xl/_rels/workbook.xml.rels': relations(
      relation('r1', 'worksheet', 'worksheets/sheet1.xml'),
      ...(strings ? [relation('r2', 'sharedStrings', 'sharedStrings.xml')] : []),
    ),
    ...(strings ? { 'xl/sharedStrings.xml': text(`<?xml version="1.0"?><sst xmlns="${MAIN}">${strings}</sst>`) } : {}),
    'xl/worksheets/sheet1.xml': sheet(rows, before),
  }
}
const book = (...a: Parameters<typeof parts>) => zip(parts(...a))
const many = (n: number, each: (i: number) => string) => Array.from({ length: n }, (_, i) => each(i)).join('')
const LAUGHS =
  '<!DOCTYPE lolz [<!ENTITY a "lol">' +
  many(9, i => `<!ENTITY ${'bcdefghij'[i]} "${`&${'abcdefghij'[i]};`.repeat(10)}">`) +
  ']>'
const OUTSIDE = '<!DOCTYPE x [<!ENTITY out SYSTEM "file:///etc/hostname">]>'

export const WORKBOOKS: Hostile[] = [
  {
    name: 'a table and a million empty rows',
    make: () => book(HEADER + FIVE + many(1e6, i => `<row r="${i + 7}"/>`)),
    rows: 5,
  },
  {
    name: 'a table and 100,000 rows of formatted empty cells',
    make: () =>
      book(HEADER + FIVE + many(1e5, i => `<row r="${i + 7}"><c r="A${i + 7}" s="1"/><c r="B${i + 7}" s="1"/></row>`)),
    rows: 5,
  },
  {
    name: 'a stray cell at XFD1048576',
    make: () => book(`${HEADER}${FIVE}<row r="1048576">${cell('XFD1048576', 1)}</row>`),
    rows: 6,
  },
  {
    name: 'a stray cell in the last row',
    make: () => book(`${HEADER}${FIVE}<row r="1048576">${cell('A1048576', 9)}</row>`),
    rows: 6,
  },
  {
    name: 'a stray cell in the last column',
    make: () => book(`${row(1, 'Time', 'Load').replace('</row>', cell('XFD1', 'far') + '</row>')}${FIVE}`),
    rows: 5,
  },
  { name: 'columns beyond the last', make: () => book(`${HEADER}<row r="2">${cell('ZZZZZZ2', 1)}</row>`) },
  {
    name: 'a row of 1e15',
    make: () => book(`${HEADER}<row r="1000000000000000">${cell('A1000000000000000', 1)}</row>`),
  },
  { name: 'a row before the first', make: () => book(`${HEADER}<row r="-5">${cell('A-5', 1)}</row>`) },
  { name: 'a cell without a place', make: () => book(`${HEADER}<row r="2">${cell('', 1)}</row>`) },
  {
    name: 'a shared string that there is not',
    make: () => book('<row r="1"><c r="A1" t="s"><v>99999999</v></c></row>', { strings: '<si><t>a</t></si>' }),
  },
  {
    name: 'entities in entities',
    make: () => book(`<row r="1"><c r="A1" t="inlineStr"><is><t>&j;</t></is></c></row>`, { before: LAUGHS }),
  },
  {
    name: 'an entity of this machine',
    make: () => book(`<row r="1"><c r="A1" t="inlineStr"><is><t>&out;</t></is></c></row>`, { before: OUTSIDE }),
  },
  { name: 'half of an archive', make: () => (b => b.slice(0, b.length >> 1))(book(HEADER + FIVE)) },
  { name: 'an archive with noise in it', make: () => (b => spoilt(b, b.length >> 1, noise(60)))(book(HEADER + FIVE)) },
  { name: 'an archive that says its parts are of 1 byte', make: () => zip(parts(HEADER + FIVE), 1), rows: 5 },
  { name: 'an archive that says its parts are of 4 GB', make: () => zip(parts(HEADER + FIVE), 0xfffffffe), rows: 5 },
  {
    name: 'a sheet of 600 MB of spaces',
    make: () => zip({ ...parts(HEADER), 'xl/worksheets/sheet1.xml': bomb(' ', 600) }),
  },
  { name: 'no sheet', make: () => (({ 'xl/worksheets/sheet1.xml': _, ...rest }) => zip(rest))(parts('')) },
  { name: 'a sheet that is no XML', make: () => zip({ ...parts(HEADER), 'xl/worksheets/sheet1.xml': noise(20_000) }) },
  {
    name: 'a sheet that breaks off',
    make: () => zip({ ...parts(HEADER), 'xl/worksheets/sheet1.xml': sheet(HEADER + FIVE).slice(0, 300) }),
  },
  {
    name: '300,000 shared strings that nobody uses',
    make: () => book(HEADER + FIVE, { strings: many(3e5, i => `<si><t>${i}</t></si>`) }),
    rows: 5,
  },
  { name: 'a cell of 30 MB', make: () => book(`${row(1, 'Time', 'x'.repeat(3e7))}${FIVE}`), rows: 5 },
  {
    name: 'elements within elements, 200,000 deep',
    make: () => zip({ ...parts(HEADER), 'xl/worksheets/sheet1.xml': text('<a>'.repeat(2e5)) }),
  },
  { name: 'words that are formulas', make: () => book(`${row(1, '=HYPERLINK(1)', '+cmd', '@SUM')}${FIVE}`), rows: 5 },
]

const content = (tables: string, before = '') => ({
  mimetype: text('application/vnd.oasis.opendocument.spreadsheet'),
  'content.xml': text(
    `<?xml version="1.0"?>${before}<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x">` +
      `<office:body><office:spreadsheet>${tables}</office:spreadsheet></office:body></office:document-content>`,
  ),
})
const ods = (tables: string, before = '') => zip(content(tables, before))
const said = (v: string | number) =>
  typeof v === 'number'
    ? `<table:table-cell office:value-type="float" office:value="${v}"/>`
    : `<table:table-cell><text:p>${v}</text:p></table:table-cell>`
const line = (attributes: string, ...cells: (string | number)[]) =>
  `<table:table-row ${attributes}>${cells.map(said).join('')}</table:table-row>`
const table = (inner: string) => `<table:table table:name="Data">${inner}</table:table>`
const TABLE =
  line('', 'Time [s]', 'Load [kN]', 'Way [mm]') + [0, 1, 2, 3, 4].map(i => line('', i, 2 * i, i + 1)).join('')
const repeated = (n: string, columns = '1') =>
  `<table:table-row table:number-rows-repeated="${n}"><table:table-cell table:number-columns-repeated="${columns}" ` +
  'office:value-type="float" office:value="1"/></table:table-row>'

export const OPEN_SHEETS: Hostile[] = [
  { name: 'a row that repeats a million times', make: () => ods(table(TABLE + repeated('1048576', '16384'))) },
  { name: 'a row that repeats 1e12 times', make: () => ods(table(TABLE + repeated('1000000000000'))) },
  { name: 'a cell that repeats 1e12 times', make: () => ods(table(TABLE + repeated('1', '1000000000000'))) },
  { name: 'a row that repeats minus times', make: () => ods(table(TABLE + repeated('-4', '-1'))), rows: 6 },
  { name: 'a row that repeats “often”', make: () => ods(table(TABLE + repeated('often', 'much'))), rows: 6 },
  {
    name: 'an empty rest of a million rows',
    make: () =>
      ods(
        table(
          `${TABLE}<table:table-row table:number-rows-repeated="1048570">` +
            '<table:table-cell table:number-columns-repeated="16384"/></table:table-row>',
        ),
      ),
    rows: 5,
  },
  {
    name: 'a billion spaces in a cell',
    make: () =>
      ods(
        table(
          '<table:table-row><table:table-cell><text:p>a<text:s text:c="1000000000"/></text:p></table:table-cell>' +
            `</table:table-row>${TABLE}`,
        ),
      ),
    rows: 5,
  },
  { name: 'entities in entities, open', make: () => ods(table(line('', '&j;')), LAUGHS) },
  {
    name: 'content of 600 MB',
    make: () => zip({ ...content(''), 'content.xml': bomb(' ', 600) }),
  },
  { name: 'content that is no XML', make: () => zip({ ...content(''), 'content.xml': noise(20_000) }) },
  { name: 'no content', make: () => zip({ mimetype: content('').mimetype }) },
  {
    name: 'a date that there is not',
    make: () =>
      ods(
        table(
          TABLE +
            '<table:table-row><table:table-cell office:value-type="date" office:date-value="2026-02-31T99:00"/>' +
            '</table:table-row>',
        ),
      ),
    rows: 6,
  },
  { name: 'ten thousand sheets', make: () => ods(table('').repeat(1e4) + table(TABLE)), rows: 5 },
  { name: 'elements 100,000 deep, open', make: () => ods('<text:a>'.repeat(1e5)) },
]
