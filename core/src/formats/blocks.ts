import { HypometError } from '../error'
import { cellNumber, isGap, withoutUnit } from './cells'
import type { NumberStyle } from '../quantity/number'
import { kernelSpace } from '../kernels/module'
import { decodeText } from './decode'
import type { Delimiter } from './lines'
import { readStamp, type DateOrder } from './stamps'

/** How a delimited file's data rows are laid out. */
export interface RowLayout {
  delimiter: Delimiter
  /** Cells of the header, without empty ones at its end. */
  width: number
  /** For each of these cells the output column, or −1 to pass over it. */
  slots: Int32Array
  /** How numbers are written. */
  numbers?: NumberStyle | undefined
  /** By output column, where the columns are not written alike. */
  styles?: readonly (NumberStyle | undefined)[] | undefined
  /** A column of stamps, and the second from which they count. */
  stamps?: { slot: number; base: number; dates?: DateOrder | undefined } | undefined
  /** By output column, the unit that stands behind its numbers in the cells. */
  units?: readonly (string | null)[] | undefined
}

/** Numbers of some whole lines. */
export interface ParsedRows {
  rows: number
  /** Line ends passed. */
  lines: number
  /** Cells that are neither numbers nor gaps, by output column. */
  bad: BadCells[]
  /** A row that broke off; only the file's last may. */
  short: { row: number; has: number } | null
  firstRow: number | null
}

export interface BadCells {
  slot: number
  count: number
  firstRow: number
}

export interface ParsedPiece extends ParsedRows {
  /** Row-major; gaps are NaN. The next piece writes over it. */
  cells: Float64Array
}

export interface ParsedBlock extends ParsedRows {
  /** One array a column; gaps are NaN. The next block writes over them. */
  columns: Float64Array[]
}

/** Reads whole lines between `from` and `to`; the last may lack its end. `firstLine` counts from 1. */
export type Scanner = (bytes: Uint8Array, from: number, to: number, firstLine: number) => ParsedPiece

const PIECE = 512 * 1024
/** A line longer than this is no row of numbers. */
const LONGEST_LINE = 64 * 1024 * 1024

/**
 * Numbers of a delimited file straight from its bytes, block after block, by the same rules as readTable. Blocks are
 * cut
 * into pieces that stay near the processor.
 */
export class BlockReader {
  readonly #scan: Scanner
  #columns: Float64Array[]

  constructor(layout: RowLayout, scanner: (layout: RowLayout) => Scanner = l => compiledScanner(l) ?? plainScanner(l)) {
    this.#scan = scanner(layout)
    this.#columns = Array.from(
      { length: layout.slots.reduce((n, s) => Math.max(n, s + 1), 0) },
      () => new Float64Array(0),
    )
  }

  /** @throws HypometError `ragged-row` with its row; `line-too-long` */
  read(bytes: Uint8Array, from: number, to: number, firstLine: number): ParsedBlock {
    const bad = new Map<number, BadCells>()
    const block: ParsedBlock = { rows: 0, lines: 0, bad: [], short: null, firstRow: null, columns: [] }
    for (let at = from; at < to;) {
      const end = pieceEnd(bytes, at, to, firstLine + block.lines)
      const piece = this.#scan(bytes, at, end, firstLine + block.lines)
      if (block.short && piece.firstRow !== null) throw brokenOff(block.short)
      for (const b of piece.bad)
        bad.set(b.slot, { ...b, ...bad.get(b.slot), count: b.count + (bad.get(b.slot)?.count ?? 0) })
      this.#take(piece, block.rows)
      block.rows += piece.rows
      block.lines += piece.lines
      block.short ??= piece.short
      block.firstRow ??= piece.firstRow
      at = end
    }
    return { ...block, bad: [...bad.values()], columns: this.#columns.map(c => c.subarray(0, block.rows)) }
  }

  /** Row-major cells to columns. */
  #take({ cells, rows }: ParsedPiece, before: number): void {
    const n = this.#columns.length
    for (let k = 0; k < n; k++) {
      let column = this.#columns[k]!
      if (column.length < before + rows) {
        const larger = new Float64Array(Math.max(before + rows, 2 * column.length))
        larger.set(column.subarray(0, before))
        this.#columns[k] = column = larger
      }
      for (let r = 0, i = k; r < rows; r++, i += n) column[before + r] = cells[i]!
    }
  }
}

/** After the last line end within a piece's length, or after the first one beyond it. */
function pieceEnd(bytes: Uint8Array, from: number, to: number, line: number): number {
  if (to - from <= PIECE) return to
  const isEnd = (i: number) => bytes[i] === LF || (bytes[i] === CR && bytes[i + 1] !== LF)
  for (let i = from + PIECE - 1; i >= from; i--) if (isEnd(i)) return i + 1
  for (let i = from + PIECE; i < to; i++) {
    if (isEnd(i)) return i + 1
    if (i - from > LONGEST_LINE)
      throw new HypometError(
        'line-too-long',
        `Line ${line} is longer than ${LONGEST_LINE / 1024 ** 2} MB; this is no table of numbers.`,
        { row: line },
      )
  }
  return to
}

const brokenOff = (short: { row: number; has: number }): HypometError =>
  new HypometError(
    'ragged-row',
    `Row ${short.row} breaks off after ${short.has} ${short.has === 1 ? 'cell' : 'cells'}, and further rows follow.`,
    { row: short.row },
  )

const TEN = Float64Array.from({ length: 23 }, (_, i) => 10 ** i)
const [TAB, LF, CR, SPACE, QUOTE, HASH, PLUS, COMMA, MINUS, POINT, ZERO] = [9, 10, 13, 32, 34, 35, 43, 44, 45, 46, 48]

/**
 * The scanner in TypeScript. A number of up to 15 digits is a whole number times or over an exact power of ten, which
 * one
 * operation rounds rightly; anything else goes through text.
 *
 * @source Clinger (1990), How to read floating point numbers accurately
 */
export function plainScanner(layout: RowLayout): Scanner {
  const { width, slots } = layout
  const delimiter = layout.delimiter.charCodeAt(0)
  const decimal = decimalSign(layout)
  const columns = slots.reduce((n, s) => Math.max(n, s + 1), 0)
  let cells: Float64Array = new Float64Array(0)
  return (bytes, from, to, firstLine) => {
    const bad = new Map<number, BadCells>()
    let [rows, line, i] = [0, firstLine, from]
    let short: ParsedRows['short'] = null
    let firstRow: number | null = null
    while (i < to) {
      let c = bytes[i]!
      if (c === LF || c === CR || c === SPACE || c === TAB || c === HASH) {
        const next = passOver(bytes, i, to)
        if (next >= 0) {
          i = next
          line++
          continue
        }
      }
      if (short) throw brokenOff(short)
      if ((rows + 1) * columns > cells.length) cells = grown(cells, (rows + 1) * columns)
      firstRow ??= line
      const base = rows * columns
      let [column, filled] = [0, 0]
      for (;;) {
        const slot = column < width ? slots[column]! : -1
        // The number, as far as it is plain.
        let p = i
        let mantissa = 0
        let digits = 0
        let scale = 0
        c = p < to ? bytes[p]! : LF
        while (c === SPACE || (c === TAB && delimiter !== TAB)) c = ++p < to ? bytes[p]! : LF
        const started = p
        const negative = c === MINUS
        if (negative || c === PLUS) c = ++p < to ? bytes[p]! : LF
        const body = p
        let d = c - ZERO
        while (d >= 0 && d <= 9) {
          mantissa = mantissa * 10 + d
          if (mantissa > 0) digits++
          c = ++p < to ? bytes[p]! : LF
          d = c - ZERO
        }
        let seen = p - body
        if (c === decimal) {
          const fraction = p + 1
          c = ++p < to ? bytes[p]! : LF
          d = c - ZERO
          while (d >= 0 && d <= 9) {
            mantissa = mantissa * 10 + d
            if (mantissa > 0) digits++
            c = ++p < to ? bytes[p]! : LF
            d = c - ZERO
          }
          seen += p - fraction
          scale = fraction - p
        }
        if (seen > 0 && (c === 69 || c === 101)) {
          let e = p + 1 < to ? bytes[p + 1]! : LF
          let q = p + 1
          const down = e === MINUS
          if (down || e === PLUS) e = ++q < to ? bytes[q]! : LF
          let exponent = 0
          const first = q
          while (e >= ZERO && e <= 57 && exponent < 1000) {
            exponent = exponent * 10 + e - ZERO
            e = ++q < to ? bytes[q]! : LF
          }
          if (q > first) {
            scale += down ? -exponent : exponent
            p = q
            c = e
          }
        }
        while (c === SPACE || (c === TAB && delimiter !== TAB)) c = ++p < to ? bytes[p]! : LF
        const ended = c === delimiter || c === LF || c === CR
        if (ended && seen > 0 && digits <= 15 && scale <= 22 && scale >= -22) {
          if (slot >= 0) {
            const size = scale < 0 ? mantissa / TEN[-scale]! : mantissa * TEN[scale]!
            cells[base + slot] = negative ? -size : size
          }
          filled = column + 1
          i = p
        } else if (ended && p === started) {
          if (slot >= 0) cells[base + slot] = NaN
          i = p
        } else {
          const cell = cellByText(bytes, i, to, layout, slot)
          if (slot >= 0) {
            cells[base + slot] = cell.value
            if (cell.isBad) count(bad, slot, line)
          }
          if (!cell.isEmpty) filled = column + 1
          i = cell.end
          c = i < to ? bytes[i]! : LF
        }
        column++
        if (c !== delimiter) break
        i++
      }
      if (filled > width) throw ragged(line, filled, width)
      if (column < width) short = { row: line, has: column }
      else rows++
      if (i < to) i += bytes[i] === CR && i + 1 < to && bytes[i + 1] === LF ? 2 : 1
      line++
    }
    return {
      rows,
      cells: cells.subarray(0, rows * columns),
      lines: line - firstLine,
      bad: [...bad.values()],
      short,
      firstRow,
    }
  }
}

function grown(cells: Float64Array, needed: number): Float64Array {
  const larger = new Float64Array(Math.max(needed, Math.ceil(1.5 * cells.length), 4096))
  larger.set(cells)
  return larger
}

const STATE = {
  position: 0,
  end: 1,
  line: 2,
  rows: 3,
  column: 4,
  filled: 5,
  delimiter: 6,
  width: 7,
  columns: 8,
  ended: 9,
  firstRow: 10,
  shortRow: 11,
  shortHas: 12,
  decimal: 13,
}
const [DONE, BY_TEXT, TOO_MANY] = [0, 1, 2]

/** The same by the compiled kernel, which hands back the cells that need text; null without WebAssembly. */
export function compiledScanner(layout: RowLayout): Scanner | null {
  const columns = layout.slots.reduce((n, s) => Math.max(n, s + 1), 0)
  let space = scanSpace(layout, columns, PIECE)
  if (!space) return null
  return (bytes, from, to, firstLine) => {
    const length = to - from
    if (length > space!.capacity) space = scanSpace(layout, columns, 2 * length)
    const { kernels, input, state, output, at } = space!
    input.set(bytes.subarray(from, to))
    input[length] = LF
    state.fill(0)
    state[STATE.end] = length
    state[STATE.line] = firstLine
    state[STATE.delimiter] = layout.delimiter.charCodeAt(0)
    state[STATE.width] = layout.width
    state[STATE.columns] = columns
    state[STATE.decimal] = decimalSign(layout)
    const bad = new Map<number, BadCells>()
    for (;;) {
      const stopped = kernels.scan(at.state, at.output, at.slots, at.tens)
      if (stopped === DONE) break
      const line = state[STATE.line]!
      if (stopped === TOO_MANY) throw ragged(line, state[STATE.filled]!, layout.width)
      if (stopped !== BY_TEXT) throw brokenOff({ row: state[STATE.shortRow]!, has: state[STATE.shortHas]! })
      const column = state[STATE.column]!
      const slot = column < layout.width ? layout.slots[column]! : -1
      const cell = cellByText(input, state[STATE.position]!, length, layout, slot)
      if (slot >= 0) {
        output[state[STATE.rows]! * columns + slot] = cell.value
        if (cell.isBad) count(bad, slot, line)
      }
      if (!cell.isEmpty) state[STATE.filled] = column + 1
      state[STATE.position] = cell.end
      state[STATE.ended] = 1
    }
    const rows = state[STATE.rows]!
    return {
      rows,
      cells: output.subarray(0, rows * columns),
      lines: state[STATE.line]! - firstLine,
      bad: [...bad.values()],
      firstRow: state[STATE.firstRow]! || null,
      short: state[STATE.shortRow]! > 0 ? { row: state[STATE.shortRow]!, has: state[STATE.shortHas]! } : null,
    }
  }
}

/**
 * Memory of the kernel: input from 0 on, then slots, powers of ten, state, and as many cells as so many bytes can hold.
 */
function scanSpace(layout: RowLayout, columns: number, capacity: number) {
  const slots = Math.ceil((capacity + 16) / 16) * 16
  const tens = Math.ceil((slots + 4 * layout.width) / 16) * 16
  const state = tens + 8 * TEN.length
  const output = state + 64
  const space = kernelSpace(output + 8 * (capacity + columns + 1))
  if (!space) return null
  new Int32Array(space.memory, slots, layout.width).set(layout.slots)
  new Float64Array(space.memory, tens, TEN.length).set(TEN)
  return {
    kernels: space.kernels,
    capacity,
    at: { slots, tens, state, output },
    input: new Uint8Array(space.memory, 0, capacity + 1),
    state: new Int32Array(space.memory, state, 16),
    output: new Float64Array(space.memory, output),
  }
}

/** The sign that a plain number may have before its decimals; whatever else there is goes through text. */
const decimalSign = ({ delimiter, numbers, styles }: RowLayout): number =>
  styles || (numbers === 'comma' && delimiter === ',') ? 0 : numbers === 'comma' ? COMMA : POINT

/** Quotes, words, very long numbers: a cell by its text. */
function cellByText(
  bytes: Uint8Array,
  at: number,
  to: number,
  { delimiter, stamps, numbers, styles, units }: RowLayout,
  slot: number,
): { end: number; value: number; isBad: boolean; isEmpty: boolean } {
  const end = cellEnd(bytes, at, to, delimiter.charCodeAt(0))
  const text = unquoted(decodeText(bytes.subarray(at, end)))
  const stamp = stamps?.slot === slot ? readStamp(text, stamps.dates) : null
  const value = stamp
    ? stamp.whole - stamps!.base + stamp.fraction
    : cellNumber(withoutUnit(text, units?.[slot]), styles?.[slot] ?? numbers)
  return { end, value, isBad: Number.isNaN(value) && !isGap(text), isEmpty: text === '' }
}

/** Where the next line begins if this one is blank or a comment; −1 if it holds cells. */
function passOver(bytes: Uint8Array, at: number, to: number): number {
  let i = at
  if (bytes[i] === HASH) while (i < to && bytes[i] !== LF && bytes[i] !== CR) i++
  else while (i < to && (bytes[i] === SPACE || bytes[i] === TAB)) i++
  if (i >= to) return to
  if (bytes[i] === LF) return i + 1
  return bytes[i] === CR ? i + (i + 1 < to && bytes[i + 1] === LF ? 2 : 1) : -1
}

/** End of a cell: a delimiter outside quotes, or the end of the line. */
function cellEnd(bytes: Uint8Array, at: number, to: number, delimiter: number): number {
  let quoted = false
  let i = at
  for (; i < to; i++) {
    const c = bytes[i]!
    if (c === QUOTE) quoted = !quoted
    else if (c === LF || c === CR || (c === delimiter && !quoted)) break
  }
  return i
}

const unquoted = (text: string): string => (text.includes('"') ? text.replace(/"("?)/g, '$1') : text).trim()

function count(bad: Map<number, BadCells>, slot: number, row: number): void {
  const known = bad.get(slot)
  if (known) known.count++
  else bad.set(slot, { slot, count: 1, firstRow: row })
}

export const ragged = (row: number, has: number, wants: number): HypometError =>
  new HypometError('ragged-row', `Row ${row} has ${has} cells where the header has ${wants}.`, { row })

/** Where the line after the `lines`-th begins. */
export function afterLines(bytes: Uint8Array, lines: number): number {
  let i = 0
  for (let n = 0; n < lines && i < bytes.length; n++) {
    while (i < bytes.length && bytes[i] !== LF && bytes[i] !== CR) i++
    i += bytes[i] === CR && bytes[i + 1] === LF ? 2 : 1
  }
  return Math.min(i, bytes.length)
}

/** Number of the line that holds the `row`-th row of cells (from 0) of some whole lines. */
export function lineOfRow(bytes: Uint8Array, to: number, firstLine: number, row: number): number {
  let [line, seen] = [firstLine, -1]
  for (let i = 0; i < to; line++) {
    const c = bytes[i]!
    const next = c === LF || c === CR || c === SPACE || c === TAB || c === HASH ? passOver(bytes, i, to) : -1
    if (next >= 0) {
      i = next
      continue
    }
    if (++seen === row) return line
    while (i < to && bytes[i] !== LF && bytes[i] !== CR) i++
    i += bytes[i] === CR && bytes[i + 1] === LF ? 2 : 1
  }
  return line
}
