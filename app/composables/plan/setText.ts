import { formatNumber, formatQuantity, type Kind, type UnitPreference } from '@hypomet/core'

/** A value beside a ladder: a quantity, a count or a word. */
export function setText(value: number | string | null, kind: Kind | 'count' | 'words', prefer: UnitPreference): string {
  if (value === null) return '–'
  if (typeof value === 'string') return value
  if (kind === 'count') return String(value)
  if (kind === 'ratio') return `${Math.abs(value) < 5e-5 ? '0' : formatNumber(100 * value, 3)}\u202f%`
  return kind === 'words' ? formatNumber(value, 4) : formatQuantity(value, kind, { prefer, digits: 3 })
}
