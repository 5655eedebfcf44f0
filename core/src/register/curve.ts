import type { CurveOutline } from '../method/prediction'
import { HypometError, isHypometError } from '../error'
import { numberOf, preferredUnit, styleOf, toSi, unitFor, whyNoNumber, type UnitPreference } from '../quantity/index'
import { findUnit } from '../quantity/units'
import type { PredictedCurve } from '../method/prediction'

/**
 * Two columns as copied from a sheet or read from a file: first x, then y. Lines before the first pair of numbers may
 * name
 * the columns and their units – in their own line, or in brackets; without units the campaign's are meant. Decimal
 * commas
 * are read where the columns are not divided by commas.
 *
 * @throws HypometError `not-a-number`, `ragged-row`, `too-few`, `unit-unknown`, `unit-dimension` with the row
 * @example readCurve('mm;kN\n0;0\n10;1,5', outline, METRIC) // { x: [0, 0.01], y: [0, 1500] }
 */
export function readCurve(text: string, outline: CurveOutline, prefer: UnitPreference): PredictedCurve {
  const lines = text
    .split(/\r?\n/)
    .map((line, i) => ({ cells: cellsOf(line), row: i + 1 }))
    .filter(l => l.cells.length > 0)
  const style = styleOf(lines.flatMap(l => l.cells)) ?? prefer.numbers
  const first = lines.findIndex(
    l => l.cells.slice(0, 2).every(c => Number.isFinite(numberOf(c, style ?? 'point'))) && l.cells.length >= 2,
  )
  if (first < 0) throw new HypometError('too-few', 'No two columns of numbers are found here.')
  const head = lines.slice(0, first).map(l => l.cells)
  const [x, y] = ([0, 1] as const).map(column => {
    const axis = column === 0 ? outline.x : outline.y
    const written =
      head.map(cells => unitIn(cells[column] ?? '', head.length > 0)).findLast(u => u !== null) ??
      preferredUnit(axis.kind, { prefer })
    try {
      return unitFor(written, axis.kind)
    } catch (e) {
      throw isHypometError(e) ? e.at({ row: lines[Math.max(0, first - 1)]!.row, column: axis.label }) : e
    }
  })
  const points = lines.slice(first).map(({ cells, row }) => {
    if (cells.length < 2) throw new HypometError('ragged-row', `Row ${row} has one cell where two are needed.`, { row })
    return ([0, 1] as const).map(column => {
      const value = numberOf(cells[column]!, style)
      if (!Number.isFinite(value))
        throw new HypometError('not-a-number', whyNoNumber(cells[column]!, style), {
          row,
          column: column === 0 ? outline.x.label : outline.y.label,
        })
      return toSi(value, column === 0 ? x! : y!)
    }) as [number, number]
  })
  if (points.length < 2) throw new HypometError('too-few', 'A curve has at least two points.')
  return { x: points.map(p => p[0]), y: points.map(p => p[1]) }
}

function cellsOf(line: string): string[] {
  const t = line.trim()
  const sign = /\t/.test(t) ? /\t/ : /;/.test(t) ? /;/ : /,\s/.test(t) ? /,\s+/ : /\s/.test(t) ? /\s+/ : /,/
  return t === '' ? [] : t.split(sign).map(c => c.trim())
}

/** “Load [kN]”, “Load (kN)” or a bare “kN”. */
function unitIn(cell: string, isHead: boolean): string | null {
  const bracketed = /[[(]([^\])]+)[\])]/.exec(cell)?.[1]
  if (bracketed) return bracketed.trim()
  return isHead && /^[^\s\d]{1,8}$/.test(cell) && isUnit(cell) ? cell : null
}

const isUnit = (text: string): boolean => findUnit(text) !== null
