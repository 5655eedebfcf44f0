import { findUnit } from '../quantity/index'
import { numberOf, styleOf, type NumberStyle } from '../quantity/number'

const GAPS = new Set(['', 'nan', 'na', 'n/a', '-', '--', 'null'])
const PLAIN = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/
const WHOLE = /^[+-]?\d+$/
const EITHER = /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/

/** What loggers write where a reading is beyond their range; IEEE 488.2 writes 9.9E37 and 9.91E37. */
const OVERLOAD =
  /^([+-]?)\s*(?:ovl?d?|ol|0l|ov?rl|over|ovr(?:ange|flow|fl?w)?|over[ -]?(?:load|range|flow)|inf(?:inity)?|∞)$/i
const OVERLOAD_FROM = 9.9e37

/** ±∞ where a cell says that its reading was beyond what could be read; NaN where it does not. */
export function overloadOf(cell: string): number {
  const said = OVERLOAD.exec(cell)
  if (said) return said[1] === '-' ? -Infinity : Infinity
  const value = /\d[eE]\+?\d/.test(cell) ? Number(cell) : NaN
  return Math.abs(value) >= OVERLOAD_FROM ? Math.sign(value) * Infinity : NaN
}

export const isGap = (cell: string): boolean => GAPS.has(cell.toLowerCase())

/** A cell's number, or NaN; one that is too large to be held is none, and so is one that may be two. */
export function cellNumber(cell: string, style?: NumberStyle): number {
  if (style === 'comma' || !PLAIN.test(cell)) return /\d/.test(cell) ? numberOf(cell, style) : NaN
  const value = Number(cell)
  return Number.isFinite(value) ? value : NaN
}

const WITH_UNIT = /^([+-\u2212]?[\d.,'\u2019\u202f ]*\d(?:[eE][+-]?\d+)?)\s*([^\d\s.,+-].*)$/

/** A cell that is a number with its unit behind it: “620.1 N”; null where it is not, or the unit is none. */
export function unitBehindNumber(cell: string): { number: string; unit: string } | null {
  const m = WITH_UNIT.exec(cell.trim())
  return m && findUnit(m[2]!.trim(), 'gravity') && !Number.isNaN(cellNumber(m[1]!, 'point'))
    ? { number: m[1]!, unit: m[2]!.trim() }
    : null
}

/**
 * The unit that the numbers of a column have behind them; null where not all have the same. A number without one is
 * only among them where the column is said to be in that unit anyway; a few words between are what was lost.
 */
export function unitInCells(cells: readonly string[], said: string | null = null): string | null {
  let unit: string | null = null
  let [isBare, read, words] = [false, 0, 0]
  for (const cell of cells) {
    if (isGap(cell.trim())) continue
    const own = unitBehindNumber(cell)?.unit
    if (own !== undefined) {
      if (unit !== null && own !== unit) return null
      unit = own
      read++
    } else if (Number.isNaN(cellNumber(cell.trim(), 'point'))) words++
    else if (said === null) return null
    else isBare = true
  }
  return (isBare && unit !== said) || words > read ? null : unit
}

/** A cell without the unit that its column has in its cells. */
export const withoutUnit = (cell: string, unit: string | null | undefined): string =>
  unit && cell.endsWith(unit) ? cell.slice(0, -unit.length).trimEnd() : cell

/** How the numbers of a table are written, as far as they tell. */
export interface NumbersSeen {
  style?: NumberStyle
  /** By column, where the columns are not written alike. */
  styles?: (NumberStyle | undefined)[]
  /** One that may be two, where no other tells which. */
  open?: { text: string; point: number; comma: number }
}

/**
 * Tells from whole columns how numbers are written. A comma before exactly three digits is open where nothing else
 * tells; so is a point, where whole numbers below a thousand stand beside it, none beyond, and it never stands before
 * two digits or four.
 *
 * @example numbersSeen([['820', '3.007']]) // { open: { text: '3.007', point: 3.007, comma: 3007 } }
 */
export function numbersSeen(columns: readonly (readonly string[])[]): NumbersSeen {
  const signed = columns.map(cells => cells.filter(c => /[.,]/.test(c) && !Number.isNaN(cellNumber(c, 'point'))))
  const style = styleOf(signed.flat())
  if (style) return { style }
  const own = signed.map(cells => styleOf(cells))
  const styles = own.some(Boolean) ? { styles: own } : {}
  for (const [i, cells] of columns.entries()) {
    if (own[i]) continue
    const text = signed[i]!.find(c => EITHER.test(c) && (c.includes(',') || areThousands(cells)))
    if (text !== undefined)
      return { ...styles, open: { text, point: numberOf(text, 'point'), comma: numberOf(text, 'comma') } }
  }
  return styles
}

function areThousands(cells: readonly string[]): boolean {
  const whole = cells.filter(c => WHOLE.test(c)).map(c => Math.abs(Number(c)))
  return whole.some(n => n > 0) && whole.every(n => n < 1000)
}
