import type { Delimiter } from './lines'

const GAPS = new Set(['', 'nan', 'na', 'n/a', '-', '--', 'null'])
const WITH_POINT = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/
const WITH_EITHER = /^[+-]?(?:\d+[.,]?\d*|[.,]\d+)(?:[eE][+-]?\d+)?$/

export const isGap = (cell: string): boolean => GAPS.has(cell.toLowerCase())

/**
 * A cell's number, or NaN; one that is too large to be held is none. The comma is a decimal sign where it cannot be a
 * delimiter.
 */
export function cellNumber(cell: string, delimiter: Delimiter): number {
  const isNumber = (delimiter === ',' ? WITH_POINT : WITH_EITHER).test(cell)
  const value = isNumber ? Number(cell.replace(',', '.')) : NaN
  return Number.isFinite(value) ? value : NaN
}
