import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import type { Result } from '../method/reduction'
import type { Kind } from '../quantity/index'
import { fitLine } from '../statistics/line'
import {
  beyond,
  BEYOND,
  REACH,
  type Dimension,
  type LawInUse,
  type Scaled,
  type Sizes,
  type SizingModel,
} from './model'
import type { MadeOf } from './made'

/* Sizing by powers: each result goes with a power of each size, from a textbook or from what revisions showed. */

export interface Law {
  exponent: number
  /** Standard uncertainty of the exponent, where no revision has shown it. */
  doubt: number
  because: string
}

/** A size that a kind of test knows laws of. */
export interface SizeLaw {
  key: string
  label: string
  kind: Kind
  /** The fact of a revision that gives it, in small letters. */
  fact: string
  results: Readonly<Record<string, Law>>
  /** The part of the mass that goes with a power of the size: all of it, unless a fact of that name says which. */
  mass?: { exponent: number; part?: string }
  /** In which steps it is usually made. */
  step?: number
  /** What the article is for: changed by hand alone. */
  isGiven?: true
  touches: readonly string[]
}

/** One tested revision: its sizes, everything else that is known of it, and its results. */
export interface TestedRevision {
  label: string
  /** Facts by name in small letters: SI numbers and words. */
  facts: Readonly<Record<string, number | string>>
  results: Readonly<Record<string, Pick<Result, 'value' | 'bound' | 'u' | 'k'>>>
}

export interface PowerInput {
  laws: readonly SizeLaw[]
  facts: TestedRevision['facts']
  mass: number | null
  /** All tested revisions of the article, this one among them. */
  history: readonly TestedRevision[]
  bases?: SizingModel['bases']
  made: (key: string, kind: Kind, step?: number) => MadeOf
}

/** How far from the tested size a law is trusted without widening. */
const KNOWN = 1.6

/** The model of those sizes that the revision has facts of. */
export function powerModel({ laws, facts, mass, history, bases = {}, made }: PowerInput): SizingModel {
  const notes: string[] = []
  const known = laws.flatMap(law => {
    const value = facts[law.fact]
    return typeof value === 'number' && value > 0 ? [{ law, name: law.fact, value }] : []
  })
  const inUse = known.flatMap(({ law, name }) =>
    Object.entries(law.results).map(([quantity, l]) => lawInUse(law, l, quantity, name, history, facts, notes)),
  )
  const dimensions = known.map(({ law, name, value }): Dimension => {
    const seen = [value, ...alike(history, facts, name).map(r => r.facts[name] as number)]
    const range = [Math.min(...seen) / KNOWN, Math.max(...seen) * KNOWN] as const
    const { lowest, highest, ...rest } = made(law.key, law.kind, law.step)
    return {
      ...rest,
      key: law.key,
      label: law.label,
      kind: law.kind,
      value,
      touches: law.touches,
      known: range,
      ...(law.isGiven ? { isGiven: true as const } : {}),
      reach: [lowest ?? value / REACH, highest ?? value * REACH],
    }
  })
  const pieces = piecesOf(
    known.filter(k => k.law.mass),
    facts,
    mass,
  )
  return {
    dimensions,
    bases,
    laws: inUse,
    notes,
    properties: Object.fromEntries(dimensions.map(d => [d.key, { label: d.label, kind: d.kind, value: d.value }])),
    at: sizes => scale(inUse, dimensions, sizes),
    massChange: sizes =>
      pieces.reduce<number | null>(
        (sum, p) => (sum === null || p.mass === null ? null : sum + p.mass * (p.ratio(sizes) - 1)),
        0,
      ),
  }
}

/** A piece of the article whose mass goes with some of its sizes. */
interface Piece {
  /** kg; null where nobody has said. */
  mass: number | null
  ratio(sizes: Sizes): number
}

/** Sizes of one piece multiply in its mass; pieces add up. A law without a piece of its own means the whole article. */
function piecesOf(
  known: readonly { law: SizeLaw; value: number }[],
  facts: TestedRevision['facts'],
  whole: number | null,
): Piece[] {
  const names = [...new Set(known.map(k => k.law.mass!.part ?? ''))]
  return names.map(name => {
    const own = facts[name]
    const sizes = known.filter(k => (k.law.mass!.part ?? '') === name)
    return {
      mass: name === '' ? whole : typeof own === 'number' ? own : null,
      ratio: at =>
        sizes.reduce((product, { law, value }) => product * ((at[law.key] ?? value) / value) ** law.mass!.exponent, 1),
    }
  })
}

function scale(laws: readonly LawInUse[], dimensions: readonly Dimension[], sizes: Sizes): Record<string, Scaled> {
  const out: Record<string, { log: number; variance: number }> = {}
  for (const law of laws) {
    const d = dimensions.find(x => x.key === law.size)!
    const size = sizes[d.key] ?? d.value
    const log = Math.log(size / d.value)
    const far = Math.abs(log) + BEYOND * beyond(d, size)
    const sum = (out[law.quantity] ??= { log: 0, variance: 0 })
    sum.log += law.exponent * log
    sum.variance += (law.u * far) ** 2
  }
  return Object.fromEntries(
    Object.entries(out).map(([key, { log, variance }]) => [key, { ratio: Math.exp(log), doubt: Math.sqrt(variance) }]),
  )
}

/**
 * Tested revisions that differ from this one in nothing but the size of that name; a mass that follows from it may
 * differ, too.
 */
function alike(history: readonly TestedRevision[], facts: TestedRevision['facts'], name: string): TestedRevision[] {
  return history.filter(
    r =>
      typeof r.facts[name] === 'number' &&
      [...new Set([...Object.keys(r.facts), ...Object.keys(facts)])].every(
        f => f === name || f.endsWith(' mass') || r.facts[f] === facts[f],
      ),
  )
}

/** The law as revisions showed it, where they did; contradicting evidence widens it and is said. */
function lawInUse(
  law: SizeLaw,
  { exponent, doubt, because }: Law,
  quantity: string,
  name: string,
  history: readonly TestedRevision[],
  facts: TestedRevision['facts'],
  notes: string[],
): LawInUse {
  const book: LawInUse = { size: law.key, quantity, exponent, u: doubt, from: 'law', because }
  const tested = alike(history, facts, name)
  const fitted = fitExponent(
    tested.flatMap(r => {
      const result = r.results[quantity]
      return result && result.value !== null && result.value > 0 && result.bound === 'exact'
        ? [{ size: r.facts[name] as number, value: result.value, u: result.u ?? null }]
        : []
    }),
  )
  if (!fitted) return book
  const shown: LawInUse = {
    ...book,
    exponent: fitted.exponent,
    u: fitted.u,
    from: 'revisions',
    because: `fitted through revisions ${tested.map(r => r.label).join(', ')}`,
  }
  const apart = Math.abs(fitted.exponent - exponent)
  // Revisions too much alike say less than the law does.
  if (fitted.u > Math.max(2 * doubt, 0.5) && apart <= 2 * Math.hypot(fitted.u, doubt)) return book
  if (apart <= 2 * Math.hypot(fitted.u, doubt)) return shown
  notes.push(
    `${law.label}: revisions ${tested.map(r => r.label).join(', ')} show a power of ` +
      `${fitted.exponent.toFixed(2)}, the law says ${exponent.toFixed(2)}. They contradict each other: the revisions ` +
      `are taken, and the band spans both. Something else may have changed as well.`,
  )
  return { ...shown, u: Math.max(fitted.u, apart / 2) }
}

/** Of values that say no u, at least so much of themselves. */
const LEAST_SCATTER = 0.01

/**
 * The power with which a value goes with a size, from two sizes or more.
 *
 * @param points  u null where a value says none: then scatter alone can tell, and it takes three of them
 * @returns null with fewer than two sizes, or two values of which one says no u
 * @source least squares of ln value on ln size; two points: error propagation of their uncertainties
 * @example fitExponent([{ size: 1, value: 10, u: 0 }, { size: 2, value: 40, u: 0 }])!.exponent // 2
 */
export function fitExponent(
  points: readonly { size: number; value: number; u: number | null }[],
): { exponent: number; u: number } | null {
  const x = points.map(p => Math.log(p.size))
  const y = points.map(p => Math.log(p.value))
  const middle = x.reduce((s, v) => s + v, 0) / x.length
  const spread = x.reduce((s, v) => s + (v - middle) ** 2, 0)
  if (points.length < 2 || spread < 1e-9) return null
  const { slope, residualSd } = fitLine(x, y)
  const n = points.length
  const isOpen = points.some(p => p.u === null)
  if (isOpen && n < 3) return null
  const carried =
    Math.sqrt(points.reduce((s, p, i) => s + (((p.u ?? 0) / p.value) * (x[i]! - middle)) ** 2, 0)) / spread
  // A quantile of Student's over the normal's: few revisions leave the scatter itself unsure.
  // Values that say no u and lie on one line by chance are not without doubt.
  const sd = isOpen ? Math.max(residualSd, LEAST_SCATTER) : residualSd
  const scattered = n > 2 ? (sd / Math.sqrt(spread)) * (tQuantile(0.975, n - 2) / 1.96) : 0
  return { exponent: slope, u: Math.max(carried, scattered) }
}
