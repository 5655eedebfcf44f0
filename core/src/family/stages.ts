import type { z } from 'zod'
import type { Handover } from '../advise/operating'
import type { FamilySizing } from '../advise/sizing'
import type { Kind } from '../quantity/index'
import type { CurveOutline, PredictedCurve, PredictedValue } from '../method/prediction'
import type { ArticleModel } from '../plan/model'
import type { Planning } from '../plan/planning'
import type { KnownFact } from '../register/knownFacts'
import type { LiveKind } from '../rig/liveReader'
import type { Specimen, SpecimenMemory } from '../rig/specimen'

/** Predictions that a plan makes, and by what. */
export interface Foretold {
  predictions: PredictedValue[]
  curves: Record<string, PredictedCurve>
  source: string
}

export interface Stages<P extends z.ZodType, A extends z.ZodType, Truth, Memory extends SpecimenMemory> {
  /** What its calculation reads of an article; without one its revisions hold free facts alone. */
  article?: A
  /** What it knows of its articles beside that, each of it named once. */
  facts: readonly KnownFact[]
  /** Curves that predictions may be given as, by the figure in which they stand. */
  curves: Record<string, CurveOutline>
  plan: P
  planning: Planning<z.output<P>>
  /** What its calculation knows of the article as it is planned. */
  model?(plan: z.output<P>, article: z.output<A>): ArticleModel | null
  /** What a plan foretells of the results by itself, where no article is calculated. */
  foretells?(plan: z.output<P>): Foretold
  /** The physics of its article in the stand-in for a rig. */
  specimen: Specimen<z.output<P>, z.output<A> | null, Truth, Memory>
  /** What a held rung says beyond its channels' means, while it runs; by the roles, zeros taken off. */
  pointOf?(means: Readonly<Record<string, number>>, plan: z.output<P>): { label: string; kind: Kind; value: number }[]
  /** What stands large while it runs, and what it waits for; without it load and governing reading. */
  live?: LiveKind<z.output<P>>
  /** Which sizes move its results, and how; without it changes are not sized. */
  sizing?: FamilySizing<z.output<P>, z.output<A>>
  /** What the tested revision may be asked to do, as a table of its own. */
  handover?: Handover
}
