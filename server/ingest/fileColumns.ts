import {
  findUnit,
  HypometError,
  siUnitOf,
  symbolsOf,
  type ColumnMapping,
  type MendedClock,
  type Unit,
} from '@hypomet/core'
import type { Conversion } from '../db/records/conversion'
import type { NewChannel } from '../db/records/samples'
import type { FileReading, ImportChannel } from './reading'

/** A column of a file on its way to be a channel. */
export interface FileColumn {
  role: string
  name: string
  symbol: string
  mapping: ColumnMapping | null
  calibration: Pick<ImportChannel, 'offset' | 'table' | 'unit'>
  unit: Unit | null
  /** As it was written or said. */
  said: string | null
}

/**
 * Every column of a file: by the role that it is mapped to, or by its own name. Expressions know it by its name,
 * whatever role it has; no name is one that another column has for its role.
 */
export function fileColumns(
  names: string[],
  saidUnits: (string | null)[],
  roleAt: ReadonlyMap<number, string>,
  mappings: ColumnMapping[],
  channels: Record<string, ImportChannel> = {},
): FileColumn[] {
  const mapped = new Map(mappings.map(m => [m.role, m]))
  const taken = new Set(mapped.keys())
  const whole = names.map((written, i) => written || `Column ${i + 1}`)
  const symbols = symbolsFor(
    whole,
    whole.map((_, i) => roleAt.get(i)),
  )
  return whole.map((name, i) => {
    const symbol = symbols[i]!
    const mapping = mapped.get(roleAt.get(i) ?? '') ?? null
    if (mapping) {
      const calibration: FileColumn['calibration'] = channels[mapping.role] ?? {}
      const said = calibration.unit ?? saidUnits[i] ?? null
      return { role: mapping.role, name, symbol, mapping, unit: mapping.unit, said, calibration }
    }
    let role = name
    for (let n = 2; taken.has(role); n++) role = `${name} (${n})`
    taken.add(role)
    const said = saidUnits[i] ?? null
    return { role, name, symbol, mapping: null, calibration: {}, unit: said ? findUnit(said, 'gravity') : null, said }
  })
}

/** Symbols by name, each unlike the roles of others. */
function symbolsFor(names: readonly string[], roles: readonly (string | undefined)[]): string[] {
  const counts = new Map<string, number>()
  for (const r of roles) if (r !== undefined) counts.set(r, (counts.get(r) ?? 0) + 1)
  const symbols = symbolsOf(names)
  const clashes = symbols.map((s, i) => (counts.get(s) ?? 0) > (roles[i] === s ? 1 : 0))
  return clashes.includes(true) ? symbolsOf(names.map((n, i) => (clashes[i] ? `${n} column` : n))) : symbols
}

export function channelOf(c: FileColumn, datasetId: number, sensorId: number | null): NewChannel {
  const { offset, table } = c.calibration
  const conversion: Conversion | null = c.unit
    ? {
        ...(table ? { table } : {}),
        scale: c.mapping?.scale ?? 1,
        ...(offset ? { offset } : {}),
        shift: c.unit.shift,
        multiply: c.unit.multiply,
        divide: c.unit.divide,
        ...(c.said ? { unit: c.said } : {}),
      }
    : null
  return {
    datasetId,
    role: c.role,
    name: c.name,
    symbol: c.symbol,
    used: c.mapping !== null && c.unit !== null,
    unit: c.unit ? siUnitOf(c.unit.dimension) : '',
    conversion,
    sensorId,
  }
}

/** What was done to a clock, in words. */
export const clockNotes = (repairs: { code: string }[]): { code: string; message: string }[] =>
  repairs.map(r =>
    r.code === 'midnight'
      ? { code: 'clock-midnight', message: 'The logger’s clock began anew at midnight; a day was added from there on.' }
      : {
          code: 'clock-hour-back',
          message: 'The logger’s clock was put back an hour; an hour was added from there on.',
        },
  )

/** What was done to a clock as a person said. */
export function mendedNotes({ repeated, pieces, left }: MendedClock, { repeats }: FileReading) {
  const how = { drop: 'dropped', average: 'averaged into one', nudge: 'spread up to the next stamp' }[repeats ?? 'drop']
  const rows = (n: number) => `${n.toLocaleString('en')} ${n === 1 ? 'row' : 'rows'}`
  return [
    ...(pieces > 1
      ? [{ code: 'clock-cut', message: `The clock jumps: one of ${pieces} pieces was kept, ${rows(left)} left out.` }]
      : []),
    ...(repeated > 0
      ? [{ code: 'stamps-repeated', message: `${rows(repeated)} repeated the stamp before: ${how}.` }]
      : []),
  ]
}

/** A clock that does not rise, with what may be done about it. */
export const timeOrder = (isRepeated: boolean, row: number, column: string): HypometError =>
  new HypometError(
    'time-order',
    isRepeated
      ? `Time stands still at row ${row}: repeated stamps can be dropped, averaged or spread.`
      : `Time goes back at row ${row}: the clock jumps, and one piece of it can be kept.`,
    { path: isRepeated ? 'reading.repeats' : 'reading.jumps', row, column },
  )

/** The clock of a file that has none: samples at a rate, from 0 on. */
export const CLOCK: FileColumn = {
  role: 't',
  name: 'Sample clock',
  symbol: 't',
  mapping: null,
  calibration: {},
  unit: findUnit('s'),
  said: 's',
}

/** The clock of rows that have none: their number. */
export const ROWS_CLOCK = 'Row'

export const rowsChannel = (datasetId: number): NewChannel => ({
  datasetId,
  role: 't',
  name: ROWS_CLOCK,
  used: true,
  unit: 's',
  conversion: null,
})

export const clockChannel = (datasetId: number): NewChannel => ({
  datasetId,
  role: 't',
  name: CLOCK.name,
  used: true,
  unit: 's',
  conversion: null,
})

export const ticks = (from: number, n: number, rate: number): Float64Array =>
  Float64Array.from({ length: n }, (_, i) => (from + i) / rate)

/** @throws HypometError `missing-channel` where a file has neither a column of time nor a rate */
export function assertClock(mappings: ColumnMapping[], rate: number | undefined): void {
  if (rate === undefined && !mappings.some(m => m.role === 't'))
    throw new HypometError(
      'missing-channel',
      'Choose the column of time, or give the rate at which the file was sampled.',
      { path: 'channels.t' },
    )
}
