import type { QuantityInput } from '../method/settings'
import { anySi, type Fact } from '../register/facts'
import { enteredOf, type KnownFact } from '../register/knownFacts'
import { families } from './methods'

/** A field of a plan that says what the article says. */
export interface FilledField {
  /** Like `radius`, or `loading.radius`. */
  path: string
  fact: KnownFact
  value: QuantityInput
}

/** The facts that a kind of test knows of its articles. */
export const knownFactsOf = (family: string): readonly KnownFact[] => families[family]?.stages.facts ?? []

const isOpen = (value: unknown): boolean => value === undefined || value === null

/**
 * A plan as entered, with what the article's facts say wherever nobody typed: such a number is typed once, and moves
 * with the article until the plan is released.
 */
export function planWithFacts(
  family: string,
  written: unknown,
  facts: readonly Fact[],
): { plan: unknown; filled: FilledField[] } {
  if (typeof written !== 'object' || written === null) return { plan: written, filled: [] }
  const plan = { ...(written as Record<string, unknown>) }
  const loading = { ...(plan['loading'] as Record<string, unknown> | undefined) }
  const filled: FilledField[] = []
  for (const fact of knownFactsOf(family)) {
    const value = enteredOf(facts, fact)
    if (value === null) continue
    const fill = (into: Record<string, unknown>, key: string, path: string) => {
      if (!isOpen(into[key])) return
      into[key] = value
      filled.push({ path, fact, value })
    }
    for (const key of fact.plan ?? []) fill(plan, key, key)
    const inLoading = fact.loading?.[loading['kind'] as string]
    if (inLoading !== undefined) fill(loading, inLoading, `loading.${inLoading}`)
  }
  return filled.length === 0 ? { plan: written, filled } : { plan: { ...plan, loading }, filled }
}

/**
 * A plan of one revision as it is to be for another: what it said because the article said so, it says no more, so that
 * the other’s own facts fill it.
 */
export function planWithoutFacts(family: string, written: unknown, facts: readonly Fact[]): unknown {
  if (typeof written !== 'object' || written === null) return written
  const plan = { ...(written as Record<string, unknown>) }
  const loading = { ...(plan['loading'] as Record<string, unknown> | undefined) }
  for (const fact of knownFactsOf(family)) {
    const value = enteredOf(facts, fact)
    if (value === null) continue
    const take = (from: Record<string, unknown>, key: string) => {
      if (!isOpen(from[key]) && isSame(from[key] as QuantityInput, value)) delete from[key]
    }
    for (const key of fact.plan ?? []) take(plan, key)
    const inLoading = fact.loading?.[loading['kind'] as string]
    if (inLoading !== undefined) take(loading, inLoading)
  }
  return { ...plan, ...(plan['loading'] ? { loading } : {}) }
}

const isSame = (a: QuantityInput, b: QuantityInput): boolean =>
  Math.abs(anySi(a) - anySi(b)) <= 1e-9 * Math.abs(anySi(b))

/** Settings that neither plan nor record propose, as the article's facts say them. */
export function settingsFromFacts(
  family: string,
  proposed: Readonly<Record<string, unknown>>,
  facts: readonly Fact[],
): Record<string, QuantityInput> {
  return Object.fromEntries(
    knownFactsOf(family).flatMap(fact => {
      const value = enteredOf(facts, fact)
      return value === null
        ? []
        : (fact.settings ?? []).filter(key => isOpen(proposed[key])).map(key => [key, value] as const)
    }),
  )
}
