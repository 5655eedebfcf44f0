import { findUnit, withoutBrackets } from '@hypomet/core'
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
export function mappingProblem(
  mapping: Record<string, MappedColumn>,
  rate: number,
  columns?: readonly { name: string }[],
): string {
  if (mapping['t']?.column === '' && !mapping['t'].isOptional && !(rate > 0))
    return 'Choose the column of time, or give the rate at which the file was sampled.'
  const asked = Object.values(mapping).find(m => m.open && m.column === '')
  if (asked) return `${asked.open!.map(n => `“${n}”`).join(' and ')} could be the same channel: say which it is.`
  const used = Object.values(mapping).filter(m => m.column !== '')
  const names = columns && new Set(columns.map(c => c.name))
  const unknown = names && used.find(m => !names.has(m.column))
  if (unknown) return `The file has no column “${unknown.column}”.`
  const unclear = used.find(m => !m.isText && (m.unit === '' || !isUnitKnown(m.unit)))
  if (unclear) return `Give the unit of “${unclear.column}”.`
  const seen = new Set<string>()
  const twice = used.find(m => seen.size === seen.add(m.column).size)
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

/** What stands for the number of a channel in a pattern of columns, and what for its name. */
const [NUMBER, NAME] = ['#', '*']

/**
 * Columns of channels by a pattern: `CH#` is the column “CH” with the number that the channel's name ends with,
 * whatever zeros stand before it; `Strain *` is “Strain” and the channel's name.
 *
 * @param names  of channels by role
 * @returns  column by role; channels that no column, or more than one, fits are left out
 */
export function columnsByPattern(
  pattern: string,
  names: Readonly<Record<string, string>>,
  columns: readonly string[],
): Record<string, string> {
  const wanted = pattern.trim().toLowerCase()
  if (!wanted.includes(NUMBER) && !wanted.includes(NAME)) return {}
  const plain = (text: string) => text.toLowerCase().replace(/\d+/g, digits => digits.replace(/^0+(?=\d)/, ''))
  const byName = new Map<string, string[]>()
  for (const c of columns) {
    for (const key of new Set([plain(c), plain(withoutBrackets(c))])) byName.set(key, [...(byName.get(key) ?? []), c])
  }
  return Object.fromEntries(
    Object.entries(names).flatMap(([role, name]) => {
      const number = /(\d+)\D*$/.exec(name)?.[1]
      if (wanted.includes(NUMBER) && number === undefined) return []
      const key = plain(wanted.replaceAll(NUMBER, number ?? '').replaceAll(NAME, name))
      const found = byName.get(key) ?? []
      return found.length === 1 ? [[role, found[0]!]] : []
    }),
  )
}
