import { strFromU8 } from 'fflate'
import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { HypometError } from '../error'
import { unzipped } from './npy'
import type { Cell } from './sheets'

/** A cell of thousands that are said to repeat is the empty rest of a sheet. */
const MOST_REPEATED = 20_000

const damaged = (why: string): HypometError => new HypometError('damaged-file', `This spreadsheet is not read: ${why}.`)

/**
 * Sheets of an OpenDocument spreadsheet, cell by cell: numbers by their value, dates by theirs, all else by its text.
 *
 * @throws HypometError `damaged-file`, `truncated-file`
 * @source OASIS Open Document Format 1.3, part 3, 9.1 (tables) and 19.385 ff. (office:value and its like)
 */
export function readOds(bytes: Uint8Array): { sheet: string; data: Cell[][] }[] {
  const content = unzipped(bytes)['content.xml']
  if (!content) throw damaged('it has no content')
  const sheets: { sheet: string; data: Cell[][] }[] = []
  let row: Cell[] = []
  let rowsAlike = 1
  let cell: { value: Cell | undefined; text: string[]; repeated: number } | null = null
  let inNote = 0
  const parser = new SaxesParser({})
  parser.on('opentag', tag => {
    const { name, attributes: a } = tag as SaxesTagPlain
    switch (name) {
      case 'table:table':
        sheets.push({ sheet: a['table:name'] ?? '', data: [] })
        break
      case 'table:table-row':
        row = []
        rowsAlike = Number(a['table:number-rows-repeated'] ?? 1)
        break
      case 'table:table-cell':
      case 'table:covered-table-cell':
        cell = { value: valueOf(a), text: [], repeated: Number(a['table:number-columns-repeated'] ?? 1) }
        break
      case 'office:annotation':
        inNote++
        break
      case 'text:p':
        if (cell && cell.text.length > 0 && inNote === 0) cell.text.push('\n')
        break
      case 'text:s':
        if (cell && inNote === 0) cell.text.push(' '.repeat(Number(a['text:c'] ?? 1)))
    }
  })
  parser.on('text', text => {
    if (cell && inNote === 0) cell.text.push(text)
  })
  parser.on('closetag', ({ name }) => {
    if (name === 'office:annotation') inNote--
    if ((name === 'table:table-cell' || name === 'table:covered-table-cell') && cell) {
      const text = cell.text.join('').trim()
      const value = cell.value ?? (text === '' ? null : text)
      // What stands empty to the edge of the sheet is not kept.
      const times = value === null ? Math.min(cell.repeated, MOST_REPEATED) : cell.repeated
      for (let i = 0; i < times; i++) row.push(value)
      cell = null
    }
    if (name === 'table:table-row') {
      while (row.length > 0 && row.at(-1) === null) row.pop()
      const times = row.length === 0 ? Math.min(rowsAlike, 1) : rowsAlike
      for (let i = 0; i < times; i++) sheets.at(-1)?.data.push([...row])
    }
  })
  try {
    parser.write(strFromU8(content)).close()
  } catch (e) {
    throw damaged((e as Error).message)
  }
  return sheets
}

/** By its type; undefined where its text says it. */
function valueOf(a: Record<string, string>): Cell | undefined {
  switch (a['office:value-type']) {
    case 'float':
    case 'percentage':
    case 'currency':
      return Number(a['office:value'])
    case 'date':
      return new Date(withZone(a['office:date-value'] ?? ''))
    case 'boolean':
      return a['office:boolean-value'] === 'true'
    case 'time':
      return secondsOf(a['office:time-value'] ?? '')
    default:
      return undefined
  }
}

/** A wall clock’s date, as every other of the house: counted as if it were UTC. */
const withZone = (text: string): string =>
  /[Zz]|[+-]\d{2}:\d{2}$/.test(text) ? text : `${text}${text.includes('T') ? 'Z' : ''}`

/** “PT01H02M03.5S”, s. */
function secondsOf(text: string): Cell {
  const m = /^PT(?:(\d+)H)?(?:(\d+)M)?(?:([\d.,]+)S)?$/.exec(text)
  return m ? Number(m[1] ?? 0) * 3600 + Number(m[2] ?? 0) * 60 + Number((m[3] ?? '0').replace(',', '.')) : null
}
