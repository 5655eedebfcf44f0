import { HypometError, isHypometError } from '../error'
import type { QuantityInput } from '../method/settings'
import { kindOf, parseAnyQuantity, siUnit, toSi, writeNumber, type NumberStyle } from '../quantity/index'
import { findUnit } from '../quantity/units'

export const FACT_GROUPS = [
  'Material',
  'Geometry',
  'Lay-up',
  'Heat treatment',
  'Surface',
  'Process',
  'Fixture',
  'Other',
] as const

/** A property of a revision beyond those its family calculates with: a number with its unit, or a word. */
export interface Fact {
  group: string
  name: string
  value: QuantityInput | string
}

/** What somebody typed as a fact's value: “0.8 mm” is a length, “shot-peened” a word. */
export function readFact(text: string, style?: NumberStyle): QuantityInput | string {
  try {
    return parseAnyQuantity(text, style)
  } catch (e) {
    // What may be two numbers is no word.
    if (!isHypometError(e) || e.code === 'number-ambiguous') throw e
    return text.trim()
  }
}

export const writeFact = (value: Fact['value'], style?: NumberStyle): string =>
  typeof value === 'object'
    ? `${writeNumber(value.value, style)} ${value.unit}`
    : typeof value === 'number'
      ? writeNumber(value, style)
      : value

const typeOf = (value: Fact['value']): string =>
  typeof value === 'string'
    ? 'a word'
    : typeof value === 'number'
      ? 'a plain number'
      : (k => (k === null ? value.unit : `a ${k} (${siUnit(k)})`))(kindOf(findUnit(value.unit)?.dimension ?? []))

/**
 * Facts are free but typed: what a name was in an earlier revision – a length, a word – it stays.
 *
 * @throws HypometError `fact-type`, `missing-setting`, `taken` at `facts.<i>`
 */
export function checkFacts(facts: unknown, earlier: readonly Fact[]): Fact[] {
  if (!Array.isArray(facts)) throw new HypometError('setting-type', 'Properties are a list.', { path: 'facts' })
  const types = new Map(earlier.map(f => [f.name.toLowerCase(), typeOf(f.value)]))
  const seen = new Set<string>()
  return facts.map((raw: Partial<Fact>, i) => {
    const path = `facts.${i}`
    const name = String(raw.name ?? '').trim()
    const { value } = raw
    if (name === '') throw new HypometError('missing-setting', 'A property needs a name.', { path })
    if (value === undefined || value === '' || value === null)
      throw new HypometError('missing-setting', `“${name}” needs a value.`, { path })
    if (typeof value === 'object' && findUnit(value.unit) === null)
      throw new HypometError('unit-unknown', `“${value.unit}” is not a unit Hypomet knows.`, { path })
    if (seen.has(name.toLowerCase())) throw new HypometError('taken', `“${name}” is there twice.`, { path })
    seen.add(name.toLowerCase())
    const was = types.get(name.toLowerCase())
    if (was && was !== typeOf(value))
      throw new HypometError(
        'fact-type',
        `“${name}” is ${was} in another revision of this article; here it is ${typeOf(value)}.`,
        { path },
      )
    return { group: FACT_GROUPS.includes(raw.group as never) ? raw.group! : 'Other', name, value }
  })
}

/** A fact's number in SI of whatever unit it has. */
export function anySi(value: QuantityInput): number {
  if (typeof value === 'number') return value
  const unit = findUnit(value.unit)
  return unit ? toSi(value.value, unit) : value.value
}
