import { HypometError } from '../error'
import { readNumber, type NumberStyle } from '../quantity/index'
import { findUnit } from '../quantity/units'
import { readFact, type Fact } from './facts'
import { plainly } from './knownFacts'

/* Facts as columns of somebody's table: “Wall thickness [mm]” over 2.6. */

/** A column's name, and the unit that stands behind it in brackets. */
function headOf(column: string): { name: string; unit: string | null } {
  const found = /^(.*?)\s*[[(]\s*([^\])]+)\s*[\])]\s*$/.exec(column.trim())
  return found ? { name: found[1]!, unit: found[2]! } : { name: column.trim(), unit: null }
}

/** A column counts as a fact where it says its unit; another might be a field that is spelt wrong. */
export function isFactColumn(column: string): boolean {
  const { name, unit } = headOf(column)
  return name !== '' && unit !== null && (unit === '-' || unit === '–' || findUnit(unit) !== null)
}

/**
 * What a row has of facts, with one more, or with another value of one that is there.
 *
 * @throws HypometError `not-a-number` for a cell that is none under a unit
 */
export function factsAdded(kept: readonly Fact[], column: string, text: string, style?: NumberStyle): Fact[] {
  const { name, unit } = headOf(column)
  const isWord = unit === '-' || unit === '–' || unit === null
  const bare = readNumber(text.trim(), style)
  const value = isWord
    ? readFact(text, style)
    : readFact(bare?.rest.trim() === '' ? `${text.trim()} ${unit}` : text, style)
  if (!isWord && typeof value === 'string')
    throw new HypometError('not-a-number', `“${text}” is no number in ${unit}.`, { path: 'facts' })
  const at = kept.findIndex(f => plainly(f.name) === plainly(name))
  const fact: Fact = { group: kept[at]?.group ?? 'Geometry', name: kept[at]?.name ?? name, value }
  return at < 0 ? [...kept, fact] : (kept.with(at, fact) as Fact[])
}
