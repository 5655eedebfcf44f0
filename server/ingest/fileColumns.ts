import { findUnit, HypometError, siUnitOf, type ColumnMapping, type Unit } from '@hypomet/core'
import type { Conversion } from '../db/records/conversion'
import type { NewChannel } from '../db/records/samples'
import type { ImportChannel } from './reading'

/** A column of a file on its way to be a channel. */
export interface FileColumn {
  role: string
  name: string
  mapping: ColumnMapping | null
  calibration: Pick<ImportChannel, 'offset' | 'table'>
  unit: Unit | null
}

/** Every column of a file: by the role that it is mapped to, or by its own name. */
export function fileColumns(
  names: string[],
  saidUnits: (string | null)[],
  roleAt: ReadonlyMap<number, string>,
  mappings: ColumnMapping[],
  channels: Record<string, ImportChannel> = {},
): FileColumn[] {
  const taken = new Set(mappings.map(m => m.role))
  return names.map((written, i) => {
    const name = written || `Column ${i + 1}`
    const mapping = mappings.find(m => m.role === roleAt.get(i)) ?? null
    if (mapping)
      return { role: mapping.role, name, mapping, unit: mapping.unit, calibration: channels[mapping.role] ?? {} }
    let role = name
    for (let n = 2; taken.has(role); n++) role = `${name} (${n})`
    taken.add(role)
    const said = saidUnits[i]
    return { role, name, mapping: null, calibration: {}, unit: said ? findUnit(said, 'gravity') : null }
  })
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
      }
    : null
  return {
    datasetId,
    role: c.role,
    name: c.name,
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

/** The clock of a file that has none: samples at a rate, from 0 on. */
export const CLOCK: FileColumn = {
  role: 't',
  name: 'Sample clock',
  mapping: null,
  calibration: {},
  unit: findUnit('s'),
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
