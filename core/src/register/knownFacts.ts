import { HypometError } from '../error'
import type { QuantityInput } from '../method/settings'
import { kindName, KINDS, sameDimension, siUnit, toSi, type Kind } from '../quantity/index'
import { findUnit } from '../quantity/units'
import { anySi, type Fact, type FACT_GROUPS } from './facts'

/**
 * A fact that a kind of test knows of its articles: typed once, and read by plan, reduction, worksheets, limits and
 * changes under one name.
 */
export interface KnownFact {
  key: string
  /** As the form shows it, and everybody who speaks of it. */
  title: string
  kind: Kind | 'word'
  group: (typeof FACT_GROUPS)[number]
  /** What else it is called, in small letters. */
  names: readonly string[]
  /** What hangs on it, as it goes on after “for”. */
  for: string
  /** A hole that is not there is 0 wide. */
  mayBeZero?: true
  /** Words to choose from, where others are taken, too. */
  choices?: readonly string[]
  /** Fields that it fills where nobody typed there: of the plan, of a way of loading, of the reduction. */
  plan?: readonly string[]
  loading?: Readonly<Record<string, string>>
  settings?: readonly string[]
}

type Rest = Partial<Omit<KnownFact, 'title' | 'for' | 'kind' | 'key'>>

/** A number among the facts of a kind of test; of its geometry, unless it is said otherwise. */
export const sizeFact = (key: string, title: string, kind: Kind, hangs: string, rest: Rest = {}): KnownFact => ({
  key,
  title,
  kind,
  group: 'Geometry',
  names: [],
  for: hangs,
  ...rest,
})

/** A word among them. */
export const wordFact = (key: string, title: string, hangs: string, rest: Rest = {}): KnownFact => ({
  key,
  title,
  kind: 'word',
  group: 'Material',
  names: [],
  for: hangs,
  ...rest,
})

export const plainly = (name: string): string => name.trim().toLowerCase().replaceAll(/\s+/g, ' ')

/** All names of a fact in small letters, its title first. */
export const namesOf = ({ title, names }: Pick<KnownFact, 'title' | 'names'>): string[] => [
  ...new Set([plainly(title), ...names]),
]

/** The known fact that goes by a name; the title of one comes before a further name of another. */
export const knownBy = (name: string, known: readonly KnownFact[]): KnownFact | undefined =>
  known.find(k => plainly(k.title) === plainly(name)) ?? known.find(k => k.names.includes(plainly(name)))

/** What is written down of a known fact, under whichever of its names. */
export function factOf(facts: readonly Fact[], k: KnownFact): Fact | undefined {
  for (const name of namesOf(k)) {
    const found = facts.find(f => plainly(f.name) === name && !isWrong(f, k))
    if (found) return found
  }
  return undefined
}

/** A number of a known fact as it was typed; null where none is known. */
export function enteredOf(facts: readonly Fact[], k: KnownFact): QuantityInput | null {
  const value = factOf(facts, k)?.value
  return value === undefined || typeof value === 'string' ? null : value
}

/**
 * Facts by the name that everybody calls them by, in small letters: SI numbers and words. Those that no kind of test
 * knows keep their own.
 */
export function factsByName(facts: readonly Fact[], known: readonly KnownFact[]): Record<string, number | string> {
  const titles = new Map(known.flatMap(k => (f => (f ? [[f, plainly(k.title)] as const] : []))(factOf(facts, k))))
  return Object.fromEntries(
    facts.map(f => [
      titles.get(f) ?? plainly(f.name),
      typeof f.value === 'string' ? f.value : anySi(f.value as QuantityInput),
    ]),
  )
}

/** What a law of sizing takes from the fact that it goes by. @throws Error where there is none of that key */
export function sizeBy(known: readonly KnownFact[], key: string): { label: string; kind: Kind; fact: string } {
  const found = known.find(k => k.key === key)
  if (!found || found.kind === 'word') throw new Error(`There is no size “${key}” among the facts.`)
  return { label: found.title, kind: found.kind, fact: plainly(found.title) }
}

const isWrong = ({ value }: Fact, { kind }: KnownFact): boolean => {
  if (kind === 'word') return false
  if (typeof value === 'string') return true
  if (typeof value === 'number') return kind !== 'ratio'
  const unit = findUnit(value.unit)
  return unit === null || !sameDimension(unit.dimension, KINDS[kind].dimension)
}

/**
 * Facts under the names that a kind of test knows hold what they say: a radius is a length, and above zero.
 *
 * @throws HypometError `unit-dimension`, `setting-type`, `setting-range` at `facts.<i>`
 */
export function checkKnownFacts(facts: readonly Fact[], known: readonly KnownFact[]): void {
  facts.forEach((f, i) => {
    const k = knownBy(f.name, known)
    if (!k || k.kind === 'word') return
    const path = `facts.${i}`
    // A word under the name of a size is what somebody else calls so: it is kept, and fills nothing.
    if (typeof f.value === 'string') return
    if (isWrong(f, k))
      throw new HypometError(
        'unit-dimension',
        `“${f.name}” is a ${kindName(k.kind)}${k.kind === 'ratio' ? '' : ` (${siUnit(k.kind)})`}; ` +
          `${typeof f.value === 'object' ? `${f.value.value} ${f.value.unit}` : f.value} is not.`,
        { path },
      )
    const si = typeof f.value === 'object' ? toSi(f.value.value, findUnit(f.value.unit)!) : f.value
    if (k.mayBeZero ? si < 0 : !(si > 0))
      throw new HypometError(
        'setting-range',
        k.mayBeZero ? `“${f.name}” is not below zero.` : `“${f.name}” must be above zero.`,
        { path },
      )
  })
}
