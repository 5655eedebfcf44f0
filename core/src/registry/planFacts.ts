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

/** A copy of a plan, with each field that a fact of the article stands for: what holds it, and under which key. */
function fieldsOfFacts(family: string, written: object, facts: readonly Fact[]) {
  const plan = { ...(written as Record<string, unknown>) }
  const loading = { ...(plan['loading'] as Record<string, unknown> | undefined) }
  if (plan['loading']) plan['loading'] = loading
  const fields = knownFactsOf(family).flatMap(fact => {
    const value = enteredOf(facts, fact)
    if (value === null) return []
    const own = (fact.plan ?? []).map(key => ({ fact, value, holder: plan, key, path: key }))
    const key = fact.loading?.[loading['kind'] as string]
    return key === undefined ? own : [...own, { fact, value, holder: loading, key, path: `loading.${key}` }]
  })
  return { plan, fields }
}

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
  const { plan, fields } = fieldsOfFacts(family, written, facts)
  const filled = fields.filter(({ holder, key }) => isOpen(holder[key]))
  for (const { holder, key, value } of filled) holder[key] = value
  return {
    plan: filled.length === 0 ? written : plan,
    filled: filled.map(({ path, fact, value }) => ({ path, fact, value })),
  }
}

/**
 * A plan of one revision as it is to be for another: what it said because the article said so, it says no more, so that
 * the other’s own facts fill it.
 */
export function planWithoutFacts(family: string, written: unknown, facts: readonly Fact[]): unknown {
  if (typeof written !== 'object' || written === null) return written
  const { plan, fields } = fieldsOfFacts(family, written, facts)
  for (const { holder, key, value } of fields)
    if (!isOpen(holder[key]) && isSame(holder[key] as QuantityInput, value)) Reflect.deleteProperty(holder, key)
  return plan
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
