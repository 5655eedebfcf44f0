import { HypometError, isHypometError } from '../error'
import type { ErrorCode } from '../errorCodes'
import { styleOf } from '../quantity/number'
import { checkCell, readCell, writeCell, type Field, type RegisterContext, type Row } from './field'

/**
 * A list of like things that people keep: its fields give the table, the form, the check at the door, and the columns
 * of CSV and JSON.
 */
export interface Register {
  id: string
  one: string
  many: string
  /** Whether each campaign has its own. */
  perCampaign: boolean
  fields: readonly Field[]
  /** Key of what a row is called by. */
  name: string
  /** What an unfinished row probably goes on with. */
  propose?(row: Row, context: RegisterContext): Row
  /** Columns of a pasted table that are no fields: what a cell of one says is added to what the row keeps. */
  further?: {
    key: string
    isOne(column: string): boolean
    add(kept: unknown, column: string, text: string, context: RegisterContext): unknown
  }
  /** What no single field can tell. @throws HypometError */
  check?(row: Row, context: RegisterContext): void
}

export const defineRegister = <R extends Register>(register: R): R => register

/**
 * A row with every field checked, in the order of the fields, so that a field may depend on those before it.
 *
 * @throws HypometError at the first field that does not hold
 */
export function checkRow(register: Register, row: Row, context: RegisterContext): Row {
  const kept: Row = {}
  const full = { ...row }
  for (const f of register.fields)
    full[f.key] = kept[f.key] = checkCell(f, row[f.key] ?? f.fallback ?? null, full, context)
  register.check?.(kept, context)
  return kept
}

export interface RowProblem {
  /** Counted from 1, as in the pasted table, its header included. */
  row: number
  column: string
  code: ErrorCode
  message: string
}

export interface ReadRow {
  /** Of the row that this one changes; null for a new one. */
  id: number | null
  values: Row
}

const ID_TITLE = 'No.'

/**
 * A table of text as rows of a register. Its first line names the columns – by title or key, in any order – or, without
 * one, the columns follow the fields from `from` on. Nothing is half read: every problem is listed with its place.
 *
 * @param lines  cells as text
 * @param base  what every new row begins with
 */
export function readRows(
  register: Register,
  lines: readonly (readonly string[])[],
  context: RegisterContext,
  o: { from?: string; base?: Row; existing?: (id: number) => Row | undefined } = {},
): { rows: ReadRow[]; problems: RowProblem[]; hasHeader: boolean } {
  const fields = register.fields.filter(f => f.type !== 'data' || lines[0]?.some(c => named(f, c)))
  const { further } = register
  const header = headerOf(fields, lines[0] ?? [], further?.isOne)
  const first = fields.findIndex(f => f.key === (o.from ?? fields[0]!.key))
  const columns: (Field | 'id' | null)[] = header?.columns ?? fields.slice(Math.max(0, first))
  const problems: RowProblem[] = (header?.unknown ?? []).map(column => ({
    row: 1,
    column,
    code: 'unknown-column',
    message: `There is no column “${column}” here.`,
  }))
  const numeric = columns.flatMap((f, i) =>
    f !== null && f !== 'id' && (f.type === 'quantity' || f.type === 'number') ? [i] : [],
  )
  // A sheet that this software wrote has points; another may show how it writes, or is as the campaign's.
  const numbers = columns.includes('id') ? 'point' : styleOf(lines.flatMap(cells => numeric.map(i => cells[i] ?? '')))
  const own = numbers ? { ...context, prefer: { ...context.prefer, numbers } } : context
  const rows: ReadRow[] = []
  lines.slice(header ? 1 : 0).forEach((cells, i) => {
    const at = i + (header ? 2 : 1)
    if (cells.every(c => c.trim() === '')) return
    if (cells.length > columns.length && cells.slice(columns.length).some(c => c.trim() !== ''))
      return void problems.push({
        row: at,
        column: '',
        code: 'ragged-row',
        message: `Row ${at} has ${cells.length} cells where there are ${columns.length} columns.`,
      })
    const row: ReadRow = { id: null, values: { ...o.base } }
    for (const f of fields) {
      const column = columns.indexOf(f)
      if (column < 0 || cells[column] === undefined) continue
      try {
        row.values[f.key] = readCell(f, cells[column], row.values, own)
      } catch (e) {
        if (!isHypometError(e)) throw e
        problems.push({ row: at, column: f.title, code: e.code, message: e.message })
      }
    }
    const id = Number(cells[columns.indexOf('id')] ?? '')
    if (columns.includes('id') && Number.isInteger(id) && id > 0) row.id = id
    for (const { column, index } of header?.further ?? []) {
      if ((cells[index] ?? '').trim() === '') continue
      const kept = row.values[further!.key] ?? (row.id === null ? undefined : o.existing?.(row.id)?.[further!.key])
      try {
        row.values[further!.key] = further!.add(kept, column, cells[index]!, own)
      } catch (e) {
        if (!isHypometError(e)) throw e
        problems.push({ row: at, column, code: e.code, message: e.message })
      }
    }
    rows.push(row)
  })
  return { rows, problems, hasHeader: header !== null }
}

const named = (f: Field, text: string): boolean =>
  [f.title, f.key, ...(f.aliases ?? [])].some(n => n.toLowerCase() === text.trim().toLowerCase())

/** A first line counts as a header when at least half of what it holds are names of fields. */
function headerOf(
  fields: readonly Field[],
  cells: readonly string[],
  isFurther: (column: string) => boolean = () => false,
): { columns: (Field | 'id' | null)[]; further: { column: string; index: number }[]; unknown: string[] } | null {
  const filled = cells.filter(c => c.trim() !== '')
  const columns = cells.map(c =>
    /^(no\.?|id)$/i.test(c.trim()) ? ('id' as const) : (fields.find(f => named(f, c)) ?? null),
  )
  const further = cells.flatMap((column, index) =>
    columns[index] === null && isFurther(column) ? [{ column, index }] : [],
  )
  const known = columns.filter(Boolean).length
  if (filled.length === 0 || known === 0 || known + further.length < filled.length / 2) return null
  const isKnown = (i: number) => columns[i] !== null || further.some(f => f.index === i)
  return { columns, further, unknown: cells.filter((c, i) => !isKnown(i) && c.trim() !== '') }
}

/** Rows as a table of text with a header, that `readRows` takes back. */
export function writeRows(register: Register, rows: readonly Row[], context: RegisterContext): string[][] {
  return [
    [ID_TITLE, ...register.fields.map(f => f.title)],
    ...rows.map(row => [String(row['id'] ?? ''), ...register.fields.map(f => writeCell(f, row[f.key], row, context))]),
  ]
}

/** Which fields differ, by key. */
export const changedKeys = (register: Register, before: Row, after: Row): string[] =>
  register.fields.map(f => f.key).filter(k => JSON.stringify(before[k] ?? null) !== JSON.stringify(after[k] ?? null))

export const unknownRegister = (id: string): HypometError =>
  new HypometError('not-found', `There is no register “${id}”.`)
