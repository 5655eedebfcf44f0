import type * as z from 'zod'
import type { Kind } from '../../quantity/index'
import type { Drawing } from '../drawing'
import type { Finding } from '../finding'
import type { HazardId } from '../hazardCatalogue'
import type { LadderRung, ReadTarget } from '../ladder'
import type { PointLoad, SpanModel } from '../model'

/** What a ladder commands: the role of the channel that reads it, its name and kind. */
export interface Commanded {
  role: string
  label: string
  kind: Kind
}

/** A column beside the ladder: what is set, or what follows, at each rung. */
export interface SetColumn {
  key: string
  label: string
  /** Words and counts have no unit. */
  kind: Kind | 'count' | 'words'
  /** Where the campaign’s own unit would not do. */
  unit?: string
  /** What the crew sets: shown beside the target in the ladder. */
  shown?: boolean
  values: (number | string | null)[]
}

export interface LoadingFact {
  label: string
  value: number | null
  kind: Kind | 'count'
}

/** A further table of the loading, by station or part. */
export interface LoadingTable {
  title: string
  columns: SetColumn[]
}

export interface LoadingHazard {
  id: HazardId
  /** J; null where energy is not what makes it dangerous. */
  energy: number | null
  standoff: number | null
  why: string
}

export interface LoadingView {
  set: SetColumn[]
  facts: LoadingFact[]
  tables: LoadingTable[]
  hazards: LoadingHazard[]
  findings: Finding[]
  drawing: Drawing
}

export interface LoadingContext {
  rungs: readonly LadderRung[]
  /** On the span at each rung. */
  loads: readonly (readonly PointLoad[])[]
  /** Index of the highest rung. */
  top: number
  span: SpanModel | null
  /** Where the reading that matters is taken along the span, m. */
  readAt: number | null
  failure: { place: number; mode: string; at: number } | null
  /** J in the article at the highest rung, where a calculation says so. */
  articleEnergy: number | null
  /** Hz */
  sampleRate: number
  /** A number as the campaign reads it. */
  show(si: number, kind: Kind): string
}

/** Typical numbers of a ladder to begin with, to be replaced. */
export interface UsualLadder {
  /** SI, of what is commanded. */
  goal: number
  /** Hz; 10 where not given. */
  rate?: number
  /** Share of the goal from which on somebody looks before going on. */
  lookFrom?: number
  /** Rungs as shares of the goal, where even ones would not do, and s at each. */
  shares?: readonly number[]
  hold?: number
}

/**
 * A way of bringing load in: what it commands, what lies where on the article at each rung, what is to be set, what can
 * go
 * wrong, and the set-up drawn from those numbers.
 */
export interface Loading<S extends z.ZodType = z.ZodType> {
  kind: string
  title: string
  purpose: string
  settings: S
  /** To begin with. */
  example: z.input<S>
  usual: UsualLadder
  commanded(settings: z.output<S>): Commanded
  /** Where another quantity may stand for the target. */
  readTarget?(settings: z.output<S>): ReadTarget
  /** For what lies on a span. */
  place?(settings: z.output<S>, targets: readonly number[]): PointLoad[][]
  view(settings: z.output<S>, context: LoadingContext): LoadingView
}

export const defineLoading = <S extends z.ZodType>(loading: Loading<S>): Loading<S> => loading

export const column = (
  key: string,
  label: string,
  kind: SetColumn['kind'],
  values: SetColumn['values'],
  more: Pick<SetColumn, 'unit' | 'shown'> = {},
): SetColumn => ({ key, label, kind, values, ...more })
export const fact = (label: string, value: number | null, kind: LoadingFact['kind']): LoadingFact => ({
  label,
  value,
  kind,
})
