import type { Delimiter } from './lines'

const GAPS = new Set(['', 'nan', 'na', 'n/a', '-', '--', 'null'])
const WITH_POINT = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/
const WITH_EITHER = /^[+-]?(?:\d+[.,]?\d*|[.,]\d+)(?:[eE][+-]?\d+)?$/

export const isGap = (cell: string): boolean => GAPS.has(cell.toLowerCase())

/** A cell's number, or NaN. The comma is a decimal sign where it cannot be a delimiter. */
export function cellNumber(cell: string, delimiter: Delimiter): number {
  if (delimiter === ',') return WITH_POINT.test(cell) ? Number(cell) : NaN
  return WITH_EITHER.test(cell) ? Number(cell.replace(',', '.')) : NaN
}
