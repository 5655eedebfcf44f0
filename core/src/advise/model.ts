import type { Result } from '../method/reduction'
import type { Kind } from '../quantity/index'

/* What a change of sizes does to what was measured. All values SI. */

/** Sizes by their keys. */
export type Sizes = Readonly<Record<string, number>>

/** How a size can be had: in steps, in a list of sizes, or any. */
export interface Made {
  step?: number
  sizes?: readonly number[]
}

/** A size of the tested revision that a change may choose. */
export interface Dimension extends Made {
  key: string
  label: string
  kind: Kind
  /** Of the tested revision. */
  value: number
  /** Where its laws have been seen to hold; beyond it predictions get wider bands, and say so. */
  known: readonly [number, number]
  /** It is what the article is for – the volume of a bag –: changed by hand alone, never proposed. */
  isGiven?: true
  /** How far a change may go. */
  reach: readonly [number, number]
  touches: readonly string[]
  leadTimeDays: number
  /** In the campaign's currency; null where nobody has said. */
  cost: number | null
}

/** What becomes of a result: `base + (measured − base) · ratio`. */
export interface Scaled {
  ratio: number
  /** Standard uncertainty of the ratio's logarithm. */
  doubt: number
}

/** One law as it is used: which result goes with which power of which size, and how that is known. */
export interface LawInUse {
  size: string
  quantity: string
  exponent: number
  /** Standard uncertainty of the exponent. */
  u: number
  from: 'law' | 'revisions'
  because: string
}

export interface SizingModel {
  dimensions: readonly Dimension[]
  /** Everything that a change may set, the dimensions and what is not sized freely (a material's strength). */
  properties: Readonly<Record<string, { label: string; kind: Kind; value: number }>>
  at(sizes: Sizes): Readonly<Record<string, Scaled>>
  /** kg more than the tested revision; null where its mass is not known. */
  massChange(sizes: Sizes): number | null
  /** kg of the tested revision as calculated, where nobody has weighed it. */
  wholeMass?: number
  /** Values from which a result is counted: a temperature from that of the room. */
  bases: Readonly<Record<string, number>>
  laws: readonly LawInUse[]
  /** What somebody who relies on it should know. */
  notes: readonly string[]
}

export const expanded = (r: Pick<Result, 'u' | 'k'>): number => (r.u ?? 0) * (r.k ?? 2)

/**
 * What the next revision would measure, scaled from what this one did: the measured uncertainty goes along, and the
 * doubt of the scaling comes on top of it.
 */
export function predictionsAt(
  model: SizingModel,
  results: Readonly<Record<string, Result>>,
  sizes: Sizes,
): Record<string, Result> {
  return Object.fromEntries(
    Object.entries(model.at(sizes)).flatMap(([key, { ratio, doubt }]) => {
      const measured = results[key]
      if (!measured || measured.value === null) return []
      const base = model.bases[key] ?? 0
      const above = (measured.value - base) * ratio
      return [
        [
          key,
          {
            value: base + above,
            unit: measured.unit,
            bound: scaledBound(measured.bound, base, ratio),
            u: Math.hypot((measured.u ?? 0) * ratio, above * doubt),
            k: measured.k ?? 2,
          } satisfies Result,
        ],
      ]
    }),
  )
}

const scaledBound = (bound: Result['bound'], base: number, ratio: number): Result['bound'] =>
  typeof bound === 'object'
    ? { interval: bound.interval.map(v => base + (v - base) * ratio) as [number, number] }
    : bound

/** Sizes beyond what their laws were seen to hold for, in words. */
export const extrapolated = (model: SizingModel, sizes: Sizes): string[] =>
  model.dimensions.flatMap(d => (beyond(d, sizes[d.key] ?? d.value) > 0 ? [d.label] : []))

/** How far a change may go from the tested size. */
export const REACH = 4
/** Beyond the known range every further step counts three times: the doubt there is that of the law itself. */
export const BEYOND = 2

/** How far a size lies beyond its known range, as a logarithm; zero inside. */
export const beyond = ({ known: [low, high] }: Pick<Dimension, 'known'>, size: number): number =>
  Math.max(0, Math.log(low / size), Math.log(size / high))
