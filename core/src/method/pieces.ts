import * as z from 'zod'
import { HypometError } from '../error'
import { median } from '../statistics/quantile'
import type { Warning } from '../warning'
import { parseSettings, plain } from './settings'
import type { Table } from './table'

/** A silence of so many usual intervals parts one piece of a record from the next. */
const SILENCE = 50

/** Number of the piece of a record that is meant, one for the first; undefined leaves it to what is usual. */
export const pieceField = (title: string) => plain({ title, min: 1, whole: true }).optional()

/** As it stands among settings that a person entered. @throws HypometError at `settings.piece` */
export const pieceAsked = (entered: unknown): number | undefined =>
  parseSettings(z.object({ piece: pieceField('Piece') }), { piece: pieceOfSettings(entered) }, 'settings').piece

const pieceOfSettings = (entered: unknown): unknown => (entered as { piece?: unknown } | null)?.piece ?? undefined

/** Rows from and to, each piece without a long silence in it; one where there is none. */
export function piecesOf(t: Float64Array): { from: number; to: number }[] {
  if (t.length < 3) return [{ from: 0, to: t.length }]
  const steps = new Float64Array(t.length - 1)
  for (let i = 0; i < steps.length; i++) steps[i] = t[i + 1]! - t[i]!
  // The usual interval by a sample of them: a long record need not be sorted for it.
  const stride = Math.max(1, Math.floor(steps.length / 5000))
  const usual = median(steps.filter((_, i) => i % stride === 0))
  const starts = [0]
  for (let i = 0; i < steps.length; i++) if (steps[i]! > SILENCE * usual) starts.push(i + 1)
  return starts.map((from, i) => ({ from, to: starts[i + 1] ?? t.length }))
}

/**
 * One piece of a record that holds several, one for each drop or shot of a run.
 *
 * @param asked  number of the piece, one for the first; undefined leaves it to `usual`
 * @param usual  index of the piece that is meant where nobody says
 * @throws HypometError `setting-range` for a number that there is not
 */
export function pieceOf(
  table: Table,
  what: string,
  asked: number | undefined,
  usual: (pieces: readonly Table[]) => number,
  warnings: Warning[],
): { table: Table; number: number; of: number } {
  const cuts = piecesOf(table.t)
  if (cuts.length === 1) return { table, number: 1, of: 1 }
  const pieces = cuts.map(p => rowsBetween(table, p.from, p.to))
  const number = asked ?? usual(pieces) + 1
  const piece = pieces[number - 1]
  if (!piece)
    throw new HypometError(
      'setting-range',
      `This record holds ${pieces.length} ${what}s: give 1 to ${pieces.length}.`,
      {
        path: 'settings.piece',
      },
    )
  warnings.push({
    code: 'one-of-several',
    message: `The record holds ${pieces.length} ${what}s; this is number ${number}.`,
  })
  return { table: piece, number, of: pieces.length }
}

function rowsBetween(table: Table, from: number, to: number): Table {
  const { t, channels, text } = table
  return {
    ...table,
    t: t.subarray(from, to),
    channels: Object.fromEntries(Object.entries(channels).map(([role, y]) => [role, y.subarray(from, to)])),
    ...(text
      ? { text: Object.fromEntries(Object.entries(text).map(([role, words]) => [role, words.slice(from, to)])) }
      : {}),
  }
}
