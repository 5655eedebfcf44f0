import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { HypometError, isHypometError } from '../error'
import { eachPart, whole, type TakePart } from './archive'
import { SheetCells, Stamped, type Cell, type Sheet } from './sheets'

const damaged = (why: string): HypometError => new HypometError('damaged-file', `This workbook is not read: ${why}.`)

const MOST_OF_A_PART = 256 * 2 ** 20
const LAST_COLUMN = 16_384

/**
 * Sheets of an Office Open XML workbook, cell by cell, read as a stream: what is not there costs nothing, and what is
 * claimed is not believed. Formulas count by the value that was stored with them, errors by their word.
 *
 * @param mostRows  of each sheet that hold something
 * @throws HypometError `damaged-file`, `truncated-file`, `too-large`
 * @source ECMA-376-1:2016 (SpreadsheetML), 18.3.1 (sheets), 18.4 (strings), 18.8.30 (number formats), 18.17.4 (dates)
 */
export function readWorkbook(bytes: Uint8Array, mostRows = Infinity): Sheet[] {
  try {
    const book = bookOf(bytes)
    const sheets = new Map<string, SheetCells>()
    eachPart(
      bytes,
      name => {
        const path = plainPath(name)
        if (!book.sheets.has(path) || sheets.has(path)) return null
        const cells = new SheetCells(mostRows)
        sheets.set(path, cells)
        return sheetTags(cells, book)
      },
      true,
    )
    if (sheets.size === 0) throw damaged('it has no sheet')
    return [...book.sheets].flatMap(([path, sheet]) => {
      const cells = sheets.get(path)
      return cells ? [{ sheet, data: cells.data, isCut: cells.isFull }] : []
    })
  } catch (e) {
    throw isHypometError(e) ? e : damaged(firstLine((e as Error).message))
  }
}

const firstLine = (text: string): string => text.split('\n')[0]!.slice(0, 200)
const bare = (name: string): string => name.slice(name.indexOf(':') + 1)
const plainPath = (path: string): string => path.replaceAll('\\', '/').replace(/^\/+/, '')

interface Tags {
  open(name: string, attribute: (name: string) => string | undefined): void
  text?(text: string): void
  close?(name: string): void
  /** Told of so many bytes that were gone through. */
  passed?(bytes: number): void
  isEnough?(): boolean
}

/** Feeds the pieces of a part to an XML parser. What a document type declares is not read, nor the file with it. */
function tags({ open, text, close, passed, isEnough }: Tags): TakePart {
  const parser = new SaxesParser({ position: false })
  const decoder = new TextDecoder()
  parser.on('doctype', () => {
    throw damaged('it declares a document type of its own')
  })
  parser.on('opentag', tag => {
    const { attributes } = tag as SaxesTagPlain
    open(bare(tag.name), name => attributes[name])
  })
  if (text) parser.on('text', text)
  if (close) parser.on('closetag', tag => close(bare(tag.name)))
  return (piece, isLast, enough) => {
    parser.write(decoder.decode(piece, { stream: !isLast }))
    passed?.(piece.length)
    if (isLast) parser.close()
    else if (isEnough?.()) enough()
  }
}

interface Book {
  /** Names of the sheets by their part, in the workbook’s order. */
  sheets: Map<string, string>
  strings: string[]
  styles: NumberMeans[]
  /** Days from 1970 back to the day from which the workbook counts. */
  epoch: number
}

const EPOCH_1900 = 25_569
const EPOCH_1904 = 24_107

/** What the workbook’s own parts say: its sheets, its words and how its cells show their numbers. */
function bookOf(bytes: Uint8Array): Book {
  const relations = new Map<string, { id: string; type: string; target: string }[]>()
  const listed = new Map<string, { name: string; id: string }[]>()
  let epoch = EPOCH_1900
  eachPart(bytes, part => {
    const path = plainPath(part)
    if (/(^|\/)_rels\/[^/]*\.rels$/.test(path))
      return whole(MOST_OF_A_PART, xml => relations.set(path, relationsIn(xml)))
    if (!/(^|\/)workbook[^/]*\.xml$/i.test(path)) return null
    const sheets: { name: string; id: string }[] = []
    listed.set(path, sheets)
    return tags({
      open(tag, is) {
        if (tag === 'sheet') sheets.push({ name: is('name') ?? '', id: is('r:id') ?? idOf(is) })
        if (tag === 'workbookPr' && /^(1|true)$/.test(is('date1904') ?? '')) epoch = EPOCH_1904
      },
    })
  })
  const main = relations.get('_rels/.rels')?.find(r => r.type === 'officeDocument')?.target ?? 'xl/workbook.xml'
  const path = plainPath(main)
  const folder = path.slice(0, path.lastIndexOf('/') + 1)
  const own = relations.get(`${folder}_rels/${path.slice(folder.length)}.rels`) ?? []
  const partOf = (target: string) => (target.startsWith('/') ? plainPath(target) : resolved(folder + target))
  const sheets = new Map<string, string>()
  for (const { name, id } of listed.get(path) ?? []) {
    const to = own.find(r => r.id === id)
    if (to?.type === 'worksheet') sheets.set(partOf(to.target), name)
  }
  const strings: string[] = []
  const styles: NumberMeans[] = []
  const parts = new Map(own.map(r => [partOf(r.target), r.type]))
  eachPart(bytes, part => {
    const type = parts.get(plainPath(part))
    return type === 'sharedStrings' ? stringTags(strings) : type === 'styles' ? styleTags(styles) : null
  })
  return { sheets, strings, styles, epoch }
}

/** Whatever the letters before its name are. */
const idOf = (is: (name: string) => string | undefined): string =>
  ['ns:id', 'd3p1:id', 'rel:id', 'id'].map(is).find(v => v !== undefined) ?? ''

function relationsIn(xml: Uint8Array) {
  const found: { id: string; type: string; target: string }[] = []
  tags({
    open(tag, is) {
      if (tag !== 'Relationship') return
      const type = is('Type') ?? ''
      found.push({ id: is('Id') ?? '', type: type.slice(type.lastIndexOf('/') + 1), target: is('Target') ?? '' })
    },
  })(xml, true, () => {})
  return found
}

/** Without steps up. */
function resolved(path: string): string {
  const out: string[] = []
  for (const step of path.split('/'))
    if (step === '..') out.pop()
    else if (step !== '.') out.push(step)
  return out.join('/')
}

/** Words by their number: those of a rich text one after the other, without what tells how they are spoken. */
function stringTags(strings: string[]): TakePart {
  let text = ''
  let inside: 'text' | 'spoken' | null = null
  let size = 0
  return tags({
    open(tag) {
      if (tag === 'si') text = ''
      else if (tag === 'rPh') inside = 'spoken'
      else if (tag === 't' && inside === null) inside = 'text'
    },
    text(piece) {
      if (inside !== 'text') return
      text += piece
      if ((size += piece.length) > MOST_OF_A_PART)
        throw new HypometError('too-large', 'This workbook holds more than 256 million letters; it is not read.')
    },
    close(tag) {
      if ((tag === 't' && inside === 'text') || tag === 'rPh') inside = null
      if (tag === 'si') strings.push(text)
    },
  })
}

type NumberMeans = 'number' | 'day' | 'time'

function styleTags(styles: NumberMeans[]): TakePart {
  const own = new Map<number, NumberMeans>()
  let isOfCells = false
  return tags({
    open(tag, is) {
      if (tag === 'numFmt') own.set(Number(is('numFmtId')), meansOf(is('formatCode') ?? ''))
      if (tag === 'cellXfs') isOfCells = true
      if (tag !== 'xf' || !isOfCells) return
      const id = Number(is('numFmtId') ?? 0)
      styles.push(own.get(id) ?? builtIn(id))
    },
    close(tag) {
      if (tag === 'cellXfs') isOfCells = false
    },
  })
}

/** Formats that no file spells out. */
function builtIn(id: number): NumberMeans {
  if ((id >= 18 && id <= 21) || (id >= 45 && id <= 47)) return 'time'
  return (id >= 14 && id <= 22) || (id >= 27 && id <= 36) || (id >= 50 && id <= 58) ? 'day' : 'number'
}

/** What the letters of a format’s first section show, quoted and escaped ones aside. */
function meansOf(format: string): NumberMeans {
  const letters = format
    .replace(/"[^"]*"|\\.|_.|\*./g, '')
    .split(';')[0]!
    .replace(/\[(?!h+\]|m+\]|s+\])[^\]]*\]/gi, '')
    .replace(/general/gi, '')
  if (/[yd]/i.test(letters)) return 'day'
  if (/[hs]/i.test(letters)) return 'time'
  return /m/i.test(letters) ? 'day' : 'number'
}

/** Cells of a sheet by their own place; one that says none stands behind the one before. */
function sheetTags(cells: SheetCells, book: Book): TakePart {
  let at = -1
  let row: Cell[] = []
  let column = -1
  let type = 'n'
  let style = 0
  let text = ''
  let inside: 'value' | 'spoken' | null = null
  return tags({
    open(tag, is) {
      switch (tag) {
        case 'row':
          at = rowOf(is('r'), at)
          row = []
          column = -1
          break
        case 'c':
          column = columnOf(is('r'), column)
          type = is('t') ?? 'n'
          style = Number(is('s') ?? 0)
          text = ''
          break
        case 'rPh':
          inside = 'spoken'
          break
        case 'v':
        case 't':
          inside ??= 'value'
      }
    },
    text(piece) {
      if (inside === 'value') text += piece
    },
    close(tag) {
      if (tag === 'rPh' || ((tag === 'v' || tag === 't') && inside === 'value')) inside = null
      if (tag === 'c' && text !== '') {
        while (row.length < column) row.push(null)
        row[column] = valueOf(text, type, book.styles[style] ?? 'number', book)
      }
      if (tag === 'row') cells.put(at, row)
    },
    passed: bytes => cells.passed(bytes),
    isEnough: () => cells.isFull,
  })
}

function rowOf(said: string | undefined, before: number): number {
  if (said === undefined) return before + 1
  const row = Number(said) - 1
  if (!Number.isInteger(row) || row < 0) throw damaged(`there is no row “${said.slice(0, 40)}”`)
  return row
}

function columnOf(said: string | undefined, before: number): number {
  if (said === undefined) return before + 1
  const letters = /^[A-Z]{1,3}/.exec(said)?.[0]
  const column = letters ? [...letters].reduce((n, c) => 26 * n + c.charCodeAt(0) - 64, 0) : 0
  if (column === 0 || column > LAST_COLUMN || !/^[A-Z]+\d+$/.test(said))
    throw damaged(`there is no cell “${said.slice(0, 40)}”`)
  return column - 1
}

function valueOf(text: string, type: string, means: NumberMeans, { strings, epoch }: Book): Cell {
  switch (type) {
    case 's': {
      const found = strings[Number(text)]
      if (found === undefined) throw damaged(`a cell names a text that there is not (${text.slice(0, 40)})`)
      return found
    }
    case 'b':
      return text === '1'
    case 'd':
      return Stamped.of(text) ?? text
    case 'n': {
      const value = Number(text)
      if (!Number.isFinite(value)) return text
      return means === 'number' ? value : Stamped.ofDays(value - (means === 'day' ? epoch : 0), means === 'day')
    }
    default:
      return text
  }
}
