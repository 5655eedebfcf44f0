import { formatQuantity, METRIC } from '../quantity/index'
import { candidateAt, sizesAlong, type Candidate, type Path } from './candidates'
import type { Dimension, LawInUse, Sizes } from './model'
import { STIFF, type Driver } from '../method/results'
import { isUndemonstrated, needsOf, type AdviceLimit, type Asked, type Need } from './needs'

export interface Advice {
  needs: Need[]
  /** The need that governs: the largest of those that are sized. */
  driver: Need | null
  /** True when every limit is shown and met with the wanted margin: then the candidates take mass out. */
  overDesigned: boolean
  /** How much comes out before the first limit binds, freely and with the stiffness kept; null unless over-designed. */
  over: { free: Reserve | null; keepingStiffness: Reserve | null } | null
  candidates: Candidate[]
  /** Ways that cannot meet all limits, and why. */
  ruledOut: { title: string; reason: string }[]
  /**
   * Limits that the test did not reach: a bound says nothing of the size that is needed. Test again before sizing for
   * them.
   */
  undemonstrated: AdviceLimit[]
  /** Limits that are short and that no law speaks of. */
  unsized: AdviceLimit[]
  /** Results that laws speak of. */
  sized: string[]
  dimensions: Dimension[]
  laws: LawInUse[]
  notes: string[]
}

/** What an over-designed article could spare. */
export interface Reserve {
  massOut: number
  title: string
  binding: AdviceLimit | null
}

/**
 * Changes that meet every limit at the wanted margin with the value's U inside, least mass first; with them what
 * governs,
 * and what stands behind each number. Limits that the test left open are not sized for, and nothing that bears on them
 * is made worse.
 *
 * @param paths  ways of changing; without them each dimension alone and each two together
 * @param mass  of the tested revision, kg; null where not known
 */
export function advise(
  given: Asked,
  mass: number | null,
  paths: readonly Path[] = usualPaths(given.model.dimensions),
): Advice {
  const undemonstrated = given.limits.filter(l => isUndemonstrated(given.results[l.quantity], l))
  // What was not shown is at least not made worse.
  const asked: Asked = {
    ...given,
    limits: given.limits.filter(l => !undemonstrated.includes(l)),
    rules: { ...given.rules, keep: [...given.rules.keep, ...undemonstrated.map(l => l.quantity)] },
  }
  const needs = needsOf(asked)
  const sized = (needs.some(n => n.isSized) ? paths : []).map(path => ({ path, sizes: sizesAlong(path, asked) }))
  const candidates = sized
    .flatMap(({ path, sizes }) => (sizes ? [candidateAt(path, sizes, asked, mass)] : []))
    .filter(c => c.changes.length > 0)
  const overDesigned = needs.length > 0 && undemonstrated.length === 0 && needs.every(n => n.isMet)
  return {
    needs,
    driver: needs
      .filter(n => n.ratio !== null && n.isSized)
      .reduce<Need | null>((worst, n) => (!worst || n.ratio! > worst.ratio! ? n : worst), null),
    overDesigned,
    over: overDesigned
      ? { free: reserveOf(candidates), keepingStiffness: reserveOf(candidatesKeeping(asked, mass, paths)) }
      : null,
    candidates: worthShowing(
      candidates,
      needs.every(n => n.isMet),
    ).toSorted((a, b) => (a.massChange ?? 0) - (b.massChange ?? 0) || a.changes.length - b.changes.length),
    ruledOut: sized.flatMap(({ path, sizes }) => (sizes ? [] : [{ title: path.title, reason: whyNot(path, asked) }])),
    undemonstrated,
    unsized: needs.filter(n => !n.isMet && !n.isSized).map(n => n.limit),
    sized: Object.keys(given.model.at({})),
    dimensions: [...given.model.dimensions],
    laws: [...given.model.laws],
    notes: [...given.model.notes],
  }
}

/** Sizes chosen by hand, as a candidate. */
export const chosenCandidate = (sizes: Sizes, asked: Asked, mass: number | null): Candidate =>
  candidateAt({ id: 'chosen', title: 'Sizes chosen by hand' }, sizes, asked, mass)

/** Each dimension that is not given alone, and each two with one of them at every size it can be had in. */
export function usualPaths(all: readonly Dimension[]): Path[] {
  const dimensions = all.filter(d => !d.isGiven)
  const alone = dimensions.map((d): Path => ({ id: d.key, title: d.label, free: [d.key] }))
  const pairs = dimensions.flatMap((a, i) =>
    dimensions.slice(i + 1).map((b): Path => ({
      id: `${a.key}+${b.key}`,
      title: `${a.label} and ${b.label.toLowerCase()}`,
      free: [b.key],
      tried: a.key,
    })),
  )
  return [...alone, ...pairs]
}

/**
 * Two changes together must spare something over the better one alone; the same sizes by two ways are shown once;
 * and where every limit is met, only what takes mass out. */
function worthShowing(candidates: readonly Candidate[], areMet: boolean): Candidate[] {
  const singles = candidates.filter(c => c.changes.length === 1)
  const seen = new Set<string>()
  return candidates.filter(c => {
    if (areMet && c.massChange !== null && c.massChange > -WORTH * Math.abs(c.mass ?? 1)) return false
    const key = JSON.stringify(Object.entries(c.sizes).toSorted(([a], [b]) => a.localeCompare(b)))
    if (seen.has(key)) return false
    seen.add(key)
    if (!c.id.includes('+')) return true
    if (c.changes.length < 2) return false
    if (c.massChange === null) return true
    const of = singles.filter(s => c.changes.some(k => k.property === s.changes[0]!.property) && s.massChange !== null)
    return of.every(s => c.massChange! < s.massChange! - WORTH * Math.abs(s.mass ?? 1))
  })
}
const WORTH = 0.002

const isStiff = (driver: Driver | undefined) => driver !== undefined && STIFF.includes(driver)
function candidatesKeeping(asked: Asked, mass: number | null, paths: readonly Path[]): Candidate[] {
  const keep = Object.keys(asked.results).filter(q => isStiff(asked.declared[q]?.driver))
  if (keep.length === 0) return []
  const kept: Asked = { ...asked, rules: { ...asked.rules, keep: [...asked.rules.keep, ...keep] } }
  return paths.flatMap(path => {
    const sizes = sizesAlong(path, kept)
    return sizes ? [candidateAt(path, sizes, kept, mass)] : []
  })
}

function reserveOf(candidates: readonly Candidate[]): Reserve | null {
  const lightest = candidates
    .filter(c => c.massChange !== null && c.massChange < 0)
    .reduce<Candidate | null>((best, c) => (!best || c.massChange! < best.massChange! ? c : best), null)
  return lightest && { massOut: -lightest.massChange!, title: lightest.title, binding: lightest.binding }
}

/** Why a way leads nowhere: the limit that no size of it keeps, or that what can be had does not. */
function whyNot(path: Path, asked: Asked): string {
  const helpless = asked.limits.filter(l => sizesAlong(path, { ...asked, limits: [l] }) === null)
  if (helpless.length > 0) return `no size of it within reach meets ${helpless.map(l => l.name).join(', nor ')}`
  if (asked.rules.keep.length > 0 && sizesAlong(path, { ...asked, rules: { ...asked.rules, keep: [] } }))
    return 'what is to be kept would get worse'
  const anySize = sizesAlong(path, {
    ...asked,
    model: { ...asked.model, dimensions: asked.model.dimensions.map(({ step: _, sizes: __, ...d }) => d) },
  })
  const would =
    anySize &&
    path.free
      .map(key => asked.model.dimensions.find(d => d.key === key)!)
      .map(d => `${d.label.toLowerCase()} ${formatQuantity(anySize[d.key]!, d.kind, { prefer: METRIC, digits: 4 })}`)
      .join(', ')
  if (would) return `no size that can be had lies where every limit is met: ${would} would do`
  return asked.limits.length > 1
    ? `what one limit needs breaks another: ${asked.limits.map(l => l.name).join(', ')}`
    : 'no size that can be had meets it'
}
