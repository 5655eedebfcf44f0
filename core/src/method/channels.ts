import { HypometError } from '../error'
import { findUnit, siUnitOf, unitFor, type Unit } from '../quantity/index'
import type { ColumnMapping, RawTable } from '../formats/readTable'
import { rowsWith } from './rows'
import type { Role, Table } from './table'

/** A role's column as a setup gives it. */
export interface ChannelEntry {
  column: string
  unit?: string
  scale?: number
}

export type ChannelMap = Record<string, ChannelEntry>

/**
 * Checks a channel map against a family's roles and resolves its units.
 *
 * @throws HypometError `unknown-channel`, `missing-channel`, `setting-type`, `unit-unknown`, `unit-dimension`
 */
export function resolveChannels(roles: Record<string, Role>, raw: unknown): ColumnMapping[] {
  const map = (raw ?? {}) as Record<string, Partial<ChannelEntry> | null>
  if (typeof map !== 'object' || Array.isArray(map))
    throw new HypometError('setting-type', 'Channels are an object of roles.', { path: 'channels' })
  for (const role of Object.keys(map))
    if (!(role in roles) && !('*' in roles))
      throw new HypometError('unknown-channel', `There is no channel role “${role}” here.`, {
        path: `channels.${role}`,
      })
  for (const [role, { optional, label }] of Object.entries(roles))
    if (role !== '*' && !optional && !(role in map))
      throw new HypometError('missing-channel', `The channel “${role}” (${label.toLowerCase()}) is needed.`, {
        path: `channels.${role}`,
      })
  return Object.entries(map).map(([role, entry]) => resolveEntry(role, roles[role] ?? roles['*']!, entry))
}

function resolveEntry(role: string, { kind }: Role, entry: Partial<ChannelEntry> | null): ColumnMapping {
  const path = `channels.${role}`
  if (typeof entry !== 'object' || entry === null || typeof entry.column !== 'string')
    throw new HypometError('setting-type', 'A channel names its column.', { path: `${path}.column` })
  const { column, unit, scale = 1 } = entry
  if (typeof scale !== 'number' || !Number.isFinite(scale))
    throw new HypometError('setting-type', 'A scale is a number.', { path: `${path}.scale` })
  if (kind === 'text') return { role, column: column.trim(), unit: null, scale: 1 }
  if (unit === undefined)
    throw new HypometError('missing-setting', `Channel “${role}” needs a unit.`, { path: `${path}.unit` })
  if (typeof unit !== 'string') throw new HypometError('setting-type', 'A unit is a text.', { path: `${path}.unit` })
  return { role, column: column.trim(), unit: channelUnit(unit, kind, `${path}.unit`), scale }
}

/** A free role takes any unit; a bare `g` then is standard gravity, as on an accelerometer. */
function channelUnit(text: string, kind: Exclude<Role['kind'], 'text'>, path: string): Unit {
  try {
    if (kind !== 'any') return unitFor(text, kind)
  } catch (e) {
    throw e instanceof HypometError ? e.at({ path }) : e
  }
  const unit = findUnit(text, 'gravity')
  if (!unit) throw new HypometError('unit-unknown', `“${text}” is not a unit Hypomet knows.`, { path })
  return unit
}

/**
 * A file's columns as a table: rows with a gap in `t` are left out, all other gaps stay.
 *
 * @throws HypometError `time-order` with the file's row when time does not rise strictly
 */
export function alignTable(mappings: ColumnMapping[], raw: RawTable): Table {
  const numbers = mappings.filter(m => m.unit && m.role !== 't')
  const read: Table = {
    t: raw.numbers['t'] ?? new Float64Array(0),
    channels: {
      ...Object.fromEntries(numbers.map(m => [m.role, raw.numbers[m.role]!])),
      [ROWS]: Float64Array.from(raw.rows),
    },
    units: Object.fromEntries(numbers.map(m => [m.role, siUnitOf(m.unit!.dimension)])),
    ...(Object.keys(raw.text).length > 0 ? { text: raw.text } : {}),
  }
  const { channels, ...table } = rowsWith(read, ['t'])
  const { [ROWS]: rows, ...own } = channels
  const { t } = table
  for (let i = 1; i < t.length; i++)
    if (!(t[i]! > t[i - 1]!)) {
      const { column } = mappings.find(m => m.role === 't')!
      const row = rows![i]!
      throw new HypometError('time-order', `Time does not rise at row ${row}: ${t[i]} s follows ${t[i - 1]} s.`, {
        path: 'channels.t',
        row,
        column,
      })
    }
  return { ...table, channels: own }
}

/** Lines of the file, beside the roles while rows are left out. */
const ROWS = ' rows'
