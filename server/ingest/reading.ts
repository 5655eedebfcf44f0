import {
  checkCalibration,
  findUnit,
  HypometError,
  lookUp,
  type ChannelEntry,
  type ClockRepair,
  type Dialect,
  type NumbersSeen,
} from '@hypomet/core'
import * as z from 'zod'

/** A column on its way to be a channel: reading × scale + offset, or a table of readings, gives numbers in `unit`. */
export interface ImportChannel extends ChannelEntry {
  offset?: number | undefined
  table?: [number, number][] | undefined
}

/** What a person says of a file: its dialect, the rate of one that has no clock, the sheet of a workbook. */
export interface FileReading extends Dialect {
  /** Hz */
  rate?: number | undefined
  sheet?: string | undefined
  /** Rows that a person typed: few, and read whole. */
  typed?: boolean | undefined
  /** Units of columns that are no planned channel, where the file does not say them rightly. */
  units?: Record<string, string> | undefined
  /** What is done about stamps that repeat, and about a clock that jumps. */
  repeats?: ClockRepair['repeats']
  jumps?: ClockRepair['jumps']
  /** Of rows that are one target or one channel each: the column that says of which. */
  tall?: string | undefined
  /** Cells that are no numbers, where they are many, may be gaps. */
  lost?: 'gaps' | undefined
}

const number = z.number().refine(Number.isFinite, 'This is no number.')

export const fileReading = z.object({
  delimiter: z.enum(['\t', ';', ',', '|', ' ']).optional(),
  headerRow: z.number().int().min(0).optional(),
  numbers: z.enum(['point', 'comma']).optional(),
  rate: number.refine(r => r > 0, 'A rate is more than nothing.').optional(),
  sheet: z.string().optional(),
  typed: z.boolean().optional(),
  tall: z.string().optional(),
  units: z.record(z.string(), z.string()).optional(),
  repeats: z.enum(['drop', 'average', 'nudge']).optional(),
  jumps: z.enum(['first', 'last', 'longest']).optional(),
  dates: z.enum(['day-first', 'month-first']).optional(),
  lost: z.enum(['gaps']).optional(),
})

/** How and where it broke, as said with a file. */
export const brokeSeen = z.object({
  mode: z.string().max(200),
  place: z.string().max(200),
  note: z.string().max(300),
  peak: number.nullable(),
})

const importChannel = z.object({
  column: z.string(),
  unit: z.string().optional(),
  scale: number.optional(),
  offset: number.optional(),
  table: z
    .array(z.tuple([number, number]))
    .max(10_000)
    .optional(),
})

export const importChannels = z.record(z.string(), importChannel)

/** What a column is in: as a person says, else as the file does. @throws HypometError `unit-unknown` */
export function unitOfColumn(name: string, said: string | null, { units = {} }: FileReading): string | null {
  const own = lookUp(units, name)
  if (own === undefined) return said
  if (own !== '' && !findUnit(own, 'gravity'))
    throw new HypometError('unit-unknown', `“${own}” is not a unit Hypomet knows.`, {
      path: `reading.units.${name}`,
      column: name,
    })
  return own === '' ? null : own
}

/** Numbers that may be two are asked about before they are taken. @throws HypometError `number-ambiguous` */
export function assertNumbers({ open }: NumbersSeen = {}): void {
  if (open)
    throw new HypometError(
      'number-ambiguous',
      `“${open.text}” may be ${open.point} or ${open.comma}, and nothing in the file tells: say how its numbers are ` +
        `written.`,
      { path: 'reading.numbers' },
    )
}

/** Dates that may be two days each are asked about before they are taken. @throws HypometError `date-ambiguous` */
export function assertDates(open: string | undefined): void {
  if (open !== undefined)
    throw new HypometError(
      'date-ambiguous',
      `“${open}” may be two days, and nothing in the file tells: say whether its dates begin with the day or ` +
        'the month.',
      { path: 'reading.dates' },
    )
}

/** Of a mapped column no more than this share may be lost without somebody having said so. */
const LOST_UNASKED = 0.01

/** @throws HypometError `cells-lost` where many cells of a channel are no numbers */
export function assertKept(
  { column, count, row, of }: { column: string; count: number; row: number; of: number },
  { lost }: FileReading,
): void {
  if (lost === undefined && count > LOST_UNASKED * of)
    throw new HypometError(
      'cells-lost',
      `Column “${column}”: ${count.toLocaleString('en')} of ${of.toLocaleString('en')} cells are no numbers, first ` +
        `in row ${row}. They can be taken as gaps; or the column, its numbers or its delimiter are read wrongly.`,
      { path: 'reading.lost', row, column },
    )
}

/** @throws HypometError `calibration-table`, `setting-range` */
export function checkImportChannels(channels: Record<string, ImportChannel>): void {
  for (const [role, { table, scale }] of Object.entries(channels)) {
    if (scale === 0)
      throw new HypometError('setting-range', 'A scale of nothing leaves nothing.', { path: `channels.${role}.scale` })
    if (table) checkCalibration(table, `channels.${role}.table`)
  }
}
