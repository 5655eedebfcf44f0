import { findUnit, siUnitOf, type ColumnMapping, type Unit } from '@hypomet/core'
import type { Conversion, NewChannel } from '../db/samples'

/** A column of a file on its way to be a channel. */
export interface FileColumn {
  role: string
  name: string
  mapping: ColumnMapping | null
  unit: Unit | null
}

/** Every column of a file: by the role that it is mapped to, or by its own name. */
export function fileColumns(names: string[], saidUnits: (string | null)[], roleAt: ReadonlyMap<number, string>, mappings: ColumnMapping[]): FileColumn[] {
  const taken = new Set(mappings.map(m => m.role))
  return names.map((written, i) => {
    const name = written || `Column ${i + 1}`
    const mapping = mappings.find(m => m.role === roleAt.get(i)) ?? null
    if (mapping) return { role: mapping.role, name, mapping, unit: mapping.unit }
    let role = name
    for (let n = 2; taken.has(role); n++) role = `${name} (${n})`
    taken.add(role)
    const said = saidUnits[i]
    return { role, name, mapping: null, unit: said ? findUnit(said, 'gravity') : null }
  })
}

export function channelOf(c: FileColumn, datasetId: number, sensorId: number | null): NewChannel {
  const conversion: Conversion | null = c.unit ? { scale: c.mapping?.scale ?? 1, shift: c.unit.shift, multiply: c.unit.multiply, divide: c.unit.divide } : null
  return { datasetId, role: c.role, name: c.name, used: c.mapping !== null && c.unit !== null, unit: c.unit ? siUnitOf(c.unit.dimension) : '', conversion, sensorId }
}

/** What was done to a clock, in words. */
export const clockNotes = (repairs: { code: string }[]): { code: string; message: string }[] =>
  repairs.map(r => (r.code === 'midnight' ? { code: 'clock-midnight', message: 'The logger’s clock began anew at midnight; a day was added from there on.' } : { code: 'clock-hour-back', message: 'The logger’s clock was put back an hour; an hour was added from there on.' }))
