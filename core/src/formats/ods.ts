import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { HypometError, isHypometError } from '../error'
import { eachPart } from './archive'
import { SheetCells, Stamped, type Cell, type Sheet } from './sheets'

/** Cells to the right of the last of a sheet are its empty rest. */
const LAST_COLUMN = 16_384
const MOST_SPACES = 1000
/** Bytes behind a sheet that was enough in which others are looked for. */
const FAR = 32 * 2 ** 20

const damaged = (why: string): HypometError => new HypometError('damaged-file', `This spreadsheet is not read: ${why}.`)

/**
 * Sheets of an OpenDocument spreadsheet, cell by cell, read as a stream: numbers by their value, dates by theirs, all
 * else by its text.
 *
 * @param mostRows  of each sheet that hold something
 * @throws HypometError `damaged-file`, `truncated-file`, `too-large`
 * @source OASIS Open Document Format 1.3, part 3, 9.1 (tables) and 19.385 ff. (office:value and its like)
 */
export function readOds(bytes: Uint8Array, mostRows = Infinity): Sheet[] {
  const sheets: { sheet: string; cells: SheetCells; next: number }[] = []
  let row: Cell[] = []
  let rowsAlike = 1
  let cell: { value: Cell | undefined; text: string[]; repeated: number } | null = null
  let inNote = 0
  const parser = new SaxesParser({ position: false })
  parser.on('opentag', tag => {
    const { name, attributes: a } = tag as SaxesTagPlain
    switch (name) {
      case 'table:table':
        sheets.push({ sheet: a['table:name'] ?? '', cells: new SheetCells(mostRows), next: 0 })
        break
      case 'table:table-row':
        row = []
        rowsAlike = times(a['table:number-rows-repeated'])
        break
      case 'table:table-cell':
      case 'table:covered-table-cell':
        cell = { value: valueOf(a), text: [], repeated: times(a['table:number-columns-repeated']) }
        break
      case 'office:annotation':
        inNote++
        break
      case 'text:p':
        if (cell && cell.text.length > 0 && inNote === 0) cell.text.push('\n')
        break
      case 'text:s':
        if (cell && inNote === 0) cell.text.push(' '.repeat(Math.min(times(a['text:c']), MOST_SPACES)))
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
      const many = Math.min(cell.repeated, LAST_COLUMN + 1 - row.length)
      if (value !== null && (many < cell.repeated || row.length + many > LAST_COLUMN))
        throw damaged(`a cell lies beyond column ${LAST_COLUMN}`)
      for (let i = 0; i < many; i++) row.push(value)
      cell = null
    }
    const sheet = sheets.at(-1)
    if (name === 'table:table-row' && sheet) {
      if (row.some(c => c !== null))
        for (let i = 0; i < rowsAlike && !sheet.cells.isFull; i++) sheet.cells.put(sheet.next + i, row)
      sheet.next += rowsAlike
    }
  })
  parser.on('doctype', () => {
    throw damaged('it declares a document type of its own')
  })
  const decoder = new TextDecoder()
  let isThere = false
  let far = 0
  try {
    eachPart(
      bytes,
      part => {
        if (part !== 'content.xml') return null
        return (piece, isLast, enough) => {
          isThere = true
          sheets.at(-1)?.cells.passed(piece.length)
          parser.write(decoder.decode(piece, { stream: !isLast }))
          if (isLast) parser.close()
          // Sheets that stand far behind one that was enough are not looked at.
          else if (sheets.at(-1)?.cells.isFull && (far += piece.length) > FAR) enough()
        }
      },
      true,
    )
  } catch (e) {
    throw isHypometError(e) ? e : damaged((e as Error).message.split('\n')[0]!)
  }
  if (!isThere) throw damaged('it has no content')
  return sheets.map(({ sheet, cells }) => ({ sheet, data: cells.data, isCut: cells.isFull }))
}

/** How often something repeats; once where that is no number. */
const times = (said: string | undefined): number => (n => (Number.isInteger(n) && n > 0 ? n : 1))(Number(said ?? 1))

/** By its type; undefined where its text says it. */
function valueOf(a: Record<string, string>): Cell | undefined {
  switch (a['office:value-type']) {
    case 'float':
    case 'percentage':
    case 'currency':
      return Number(a['office:value'])
    case 'date':
      return (said => Stamped.of(said) ?? said)(a['office:date-value'] ?? '')
    case 'boolean':
      return a['office:boolean-value'] === 'true'
    case 'time':
      return secondsOf(a['office:time-value'] ?? '')
    default:
      return undefined
  }
}

/** “PT01H02M03.5S”. */
function secondsOf(text: string): Cell {
  const m = /^PT(?:(\d+)H)?(?:(\d+)M)?(?:([\d.,]+)S)?$/.exec(text)
  if (!m) return text
  const seconds = Number(m[1] ?? 0) * 3600 + Number(m[2] ?? 0) * 60 + Number((m[3] ?? '0').replace(',', '.'))
  return Stamped.ofSeconds(seconds)
}
