import { HypometError } from '../error'
import { findUnit, siUnitOf, unitFor, type Unit } from '../quantity/index'
import type { ColumnMapping, RawTable } from '../formats/readTable'
import { hasGap } from '../signal/gaps'
import { fillShortGaps, GAP_FILLED } from '../signal/evenTime'
import type { Role, Table, TimeBase } from './table'
import type { Warning } from '../warning'

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
 * Rows in which no named column has a gap, and a way to pick them from any column. `kept` is null where that is every
 * row:
 * records of millions of samples without a gap are not copied.
 */
export function completeRows(
  named: readonly Float64Array[],
  length: number,
): { kept: Uint32Array | null; pick: (column: Float64Array) => Float64Array } {
  if (!named.some(hasGap)) return { kept: null, pick: column => column }
  const rows = new Uint32Array(length)
  let count = 0
  for (let i = 0; i < length; i++) if (named.every(column => !Number.isNaN(column[i]!))) rows[count++] = i
  const kept = rows.subarray(0, count)
  return {
    kept,
    pick(column) {
      const picked = new Float64Array(count)
      for (let k = 0; k < count; k++) picked[k] = column[kept[k]!]!
      return picked
    },
  }
}

/**
 * Rows that can be reduced: those with a gap in `t` or in a named numeric role are left out, free roles keep theirs.
 *
 * @throws HypometError `time-order` with the file's row when time does not rise strictly
 */
export function alignTable(
  roles: Record<string, Role>,
  mappings: ColumnMapping[],
  raw: RawTable,
  timeBase: TimeBase = 'as-read',
  warnings: Warning[] = [],
): Table {
  if (
    timeBase === 'even' &&
    Object.entries(raw.numbers)
      .map(([role, y]) => fillShortGaps(y, role))
      .some(Boolean)
  )
    warnings.push(GAP_FILLED)
  const named = mappings.filter(m => m.unit && m.role in roles).map(m => raw.numbers[m.role]!)
  const { kept, pick } = completeRows(named, raw.rows.length)
  const t = raw.numbers['t'] ? pick(raw.numbers['t']) : new Float64Array(0)
  for (let i = 1; i < t.length; i++)
    if (!(t[i]! > t[i - 1]!)) {
      const { column } = mappings.find(m => m.role === 't')!
      const row = raw.rows[kept?.[i] ?? i]!
      throw new HypometError('time-order', `Time does not rise at row ${row}: ${t[i]} s follows ${t[i - 1]} s.`, {
        path: 'channels.t',
        row,
        column,
      })
    }
  const others = mappings.filter(m => m.unit && m.role !== 't')
  return {
    t,
    channels: Object.fromEntries(others.map(m => [m.role, pick(raw.numbers[m.role]!)])),
    units: Object.fromEntries(others.map(m => [m.role, siUnitOf(m.unit!.dimension)])),
    ...(Object.keys(raw.text).length > 0
      ? {
          text: Object.fromEntries(
            Object.entries(raw.text).map(([role, words]) => [role, kept ? Array.from(kept, i => words[i]!) : words]),
          ),
        }
      : {}),
  }
}
