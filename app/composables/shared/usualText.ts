import { formatNumber, inUnit, isHypometError, readableUnit, type Kind, type UnitPreference } from '@hypomet/core'

/** What a setting is when nothing is entered, as its field would show it. */
export function usualText(fallback: unknown, kind: Kind | 'any', prefer: UnitPreference): string {
  if (typeof fallback !== 'number' || kind === 'any') return ''
  try {
    const unit = readableUnit(fallback, kind, { prefer })
    return `${formatNumber(inUnit(fallback, kind, unit), 4)}${unit === '1' ? '' : ` ${unit}`}`
  } catch (e) {
    if (!isHypometError(e)) throw e
    return ''
  }
}
