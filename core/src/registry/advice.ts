import type { FamilySizing, OwnSizingInput, RevisionTested } from '../advise/sizing'
import { families } from './methods'
import { HypometError } from '../error'
import type { DecisionRule } from '../judge/decide'
import type { Result } from '../method/reduction'
import { parseSettings, type QuantityInput } from '../method/settings'
import { findUnit, fromSi } from '../quantity/index'
import type { Fact } from '../register/facts'
import { factOf, factsByName, type KnownFact } from '../register/knownFacts'
import { advise, chosenCandidate, usualPaths, type Advice } from '../advise/advise'
import type { Candidate, Path } from '../advise/candidates'
import { powerModel, type SizeLaw, type TestedRevision } from '../advise/laws'
import { madeOf, sizingRules, type SizingRulesInput } from '../advise/made'
import { checkOwnLaws, withOwnLaws } from '../advise/ownLaws'
import type { DeclaredOwn } from '../own/declared'
import { resultsOf } from './ownResults'
import type { Sizes, SizingModel } from '../advise/model'
import type { AdviceLimit, Asked } from '../advise/needs'

/** All that is needed to size changes of a revision: plain data, so that it can be worked on away from the server. */
export interface SizingInput {
  family: string
  revision: RevisionTested
  plan: unknown
  /** Settings of the reduction, as entered. */
  settings: Record<string, unknown>
  /** kg, as weighed. */
  mass: number | null
  results: Record<string, Result>
  limits: AdviceLimit[]
  materials: unknown
  rule: DecisionRule
  rules: SizingRulesInput
  history: RevisionTested[]
  /** Results that the article has of its own. */
  own?: DeclaredOwn[]
}

interface Sizing {
  asked: Asked
  mass: number | null
  paths: Path[]
}

/**
 * The scales and ways of one kind of test, ready to be asked.
 *
 * @throws HypometError `no-advice` where nothing is known of its sizes; otherwise what the rules or the article's
 * schema refuse
 */
export function sizingOf(input: SizingInput): Sizing {
  const family = families[input.family]
  const sizing = family?.stages.sizing as FamilySizing<unknown, unknown> | undefined
  if (!family || !sizing)
    throw new HypometError(
      'no-advice',
      'No law is known here by which sizes move the results of this kind of test: make the next revision on the ' +
        'article’s page.',
    )
  const rules = parseSettings(sizingRules, input.rules, 'rules')
  const { results, limits, rule } = input
  const declared = resultsOf(input.family, input.own)
  const ask = (model: SizingModel): Asked => ({
    model: withOwnLaws(model, rules, declared),
    results,
    limits,
    rule,
    rules,
    declared,
  })
  if (sizing.model) {
    const own: OwnSizingInput<unknown, unknown> = {
      article: parseSettings(family.stages.article!, input.revision.properties, 'properties'),
      plan: parseSettings(family.stages.plan, input.plan, 'plan'),
      facts: input.revision.facts,
      results,
      materials: input.materials,
      rules,
      history: input.history,
    }
    const model = sizing.model(own)
    return {
      asked: ask(model),
      mass: input.mass ?? model.wholeMass ?? null,
      paths: sizing.paths?.(own) ?? usualPaths(model.dimensions),
    }
  }
  const tested = (r: RevisionTested): TestedRevision => ({
    label: r.label,
    facts: factsByName(r.facts, family.stages.facts),
    results: r.results,
  })
  const model = powerModel({
    laws: sizing.laws ?? [],
    facts: factsByName(input.revision.facts, family.stages.facts),
    mass: input.mass,
    history: [tested(input.revision), ...input.history.map(tested)],
    bases: sizing.bases?.(input.settings, results) ?? {},
    made: (key, kind, step) => madeOf(rules, key, kind, step === undefined ? {} : { step }),
  })
  if (model.dimensions.length === 0)
    throw new HypometError(
      'no-sizes',
      `None of the sizes that are known to move these results stands in the revision’s facts: ` +
        `${(sizing.laws ?? []).map(l => l.label.toLowerCase()).join(', ')}. Write them down on the article’s page.`,
    )
  return { asked: ask(model), mass: input.mass, paths: usualPaths(model.dimensions) }
}

/** Advice for a revision under judgement. */
export function adviseRevision(input: SizingInput): Advice {
  const { asked, mass, paths } = sizingOf(input)
  return advise(asked, mass, paths)
}

/** A candidate by sizes chosen by hand. */
export function candidateOf(input: SizingInput, { sizes }: { sizes: Sizes }): Candidate {
  const { asked, mass } = sizingOf(input)
  return chosenCandidate(sizes, asked, mass)
}

/**
 * The next revision's properties and facts: the tested one's with the candidate's sizes in their place, in the units
 * they were
 * written in; the mass of a piece goes with its sizes.
 */
export function revisionWith(
  input: Pick<SizingInput, 'family' | 'revision'>,
  sizes: Sizes,
): { properties: Record<string, unknown>; facts: Fact[] } {
  const laws = families[input.family]?.stages.sizing?.laws as readonly SizeLaw[] | undefined
  const properties = (input.revision.properties ?? {}) as Record<string, unknown>
  if (!laws) return { properties: { ...properties, ...sizes }, facts: [...input.revision.facts] }
  const known = families[input.family]!.stages.facts
  const before = factsByName(input.revision.facts, known)
  const after: Record<string, number> = {}
  for (const [key, si] of Object.entries(sizes)) {
    const law = laws.find(l => l.key === key)
    if (!law || typeof before[law.fact] !== 'number') continue
    after[law.fact] = si
    const part = law.mass?.part
    const mass = part === undefined ? undefined : (after[part] ?? before[part])
    // A size that is itself the mass of its piece is already there.
    if (part !== undefined && part !== law.fact && typeof mass === 'number')
      after[part] = mass * (si / (before[law.fact] as number)) ** law.mass!.exponent
  }
  return { properties, facts: factsWith(input.revision.facts, known, after) }
}

/** Facts with other numbers under some names; each stays in the unit that it was written in. */
function factsWith(facts: readonly Fact[], known: readonly KnownFact[], after: Record<string, number>): Fact[] {
  const named = new Map(known.flatMap(k => (f => (f ? [[f, k.title.toLowerCase()] as const] : []))(factOf(facts, k))))
  return facts.map(f => {
    const si = after[named.get(f) ?? f.name.toLowerCase()]
    return si === undefined || typeof f.value === 'string' ? f : { ...f, value: inItsUnit(si, f.value) }
  })
}

function inItsUnit(si: number, like: QuantityInput): QuantityInput {
  const tidy = (x: number) => Number(x.toPrecision(10))
  const unit = typeof like === 'object' ? findUnit(like.unit) : null
  return unit && typeof like === 'object' ? { value: tidy(fromSi(si, unit)), unit: like.unit } : tidy(si)
}

/** Refuses rules that cannot be read for this kind of test. @throws HypometError at `rules…` or `made.<key>.<field>` */
export function checkSizingRules(family: string, rules: SizingRulesInput): void {
  const laws = (families[family]?.stages.sizing?.laws ?? []) as readonly SizeLaw[]
  const parsed = parseSettings(sizingRules, rules, 'rules')
  checkOwnLaws(parsed, Object.keys(families[family]?.results ?? {}))
  for (const key of Object.keys(parsed.made)) madeOf(parsed, key, laws.find(l => l.key === key)?.kind ?? 'length')
}
