import { findUnit } from '@hypomet/core'
import type { FilePreview } from '~/types/api'

export interface Calibration {
  scale?: number
  offset?: number
  table?: [number, number][]
}

/** What a channel is read from. */
export interface MappedColumn {
  column: string
  unit: string
  calibration: Calibration
  /** Holds words, which have no unit. */
  isText?: boolean
  /** Need not be there. */
  isOptional?: boolean
  /** Columns of which any could be it: somebody says which. */
  open?: string[]
}

/** As much of a file as shows what it is. */
export const FILE_HEAD = 256 * 1024

type Preview = FilePreview['preview']

/** A first mapping, as guessed; channels that the record has already are left out. */
export function guessedMapping(preview: Preview, held: readonly string[]): Record<string, MappedColumn> {
  return Object.fromEntries(
    preview.planned
      .filter(p => p.role === 't' || !held.includes(p.role))
      .map(p => [
        p.role,
        {
          column: preview.guess[p.role]?.column ?? '',
          unit: preview.guess[p.role]?.unit ?? '',
          calibration: {},
          ...(p.kind === 'text' ? { isText: true } : {}),
          ...(p.optional ? { isOptional: true } : {}),
          ...(preview.open[p.role] ? { open: preview.open[p.role]! } : {}),
        },
      ]),
  )
}

export const isUnitKnown = (unit: string): boolean => unit === '' || findUnit(unit, 'gravity') !== null

/** What is still wrong with a mapping, in words; empty where it can be imported. */
export function mappingProblem(mapping: Record<string, MappedColumn>, rate: number): string {
  if (mapping['t']?.column === '' && !mapping['t'].isOptional && !(rate > 0))
    return 'Choose the column of time, or give the rate at which the file was sampled.'
  const asked = Object.values(mapping).find(m => m.open && m.column === '')
  if (asked) return `${asked.open!.map(n => `“${n}”`).join(' and ')} could be the same channel: say which it is.`
  const used = Object.values(mapping).filter(m => m.column !== '')
  const unclear = used.find(m => !m.isText && (m.unit === '' || !isUnitKnown(m.unit)))
  if (unclear) return `Give the unit of “${unclear.column}”.`
  const twice = used.find((m, i) => used.some((o, k) => k < i && o.column === m.column))
  if (twice) return `“${twice.column}” is chosen twice.`
  return ''
}

/** As the server takes it. */
export const channelsToSend = (mapping: Record<string, MappedColumn>) =>
  Object.fromEntries(
    Object.entries(mapping)
      .filter(([, m]) => m.column !== '')
      .map(([role, { column, unit, calibration, isText }]) => [
        role,
        isText ? { column } : { column, unit, ...calibration },
      ]),
  )
