import * as z from 'zod'
import { mayWait } from '../../method/settings'
import type { Kind } from '../../quantity/index'
import type { Drawing } from '../drawing'
import { stop, warn, type Finding } from '../finding'
import type { HazardId } from '../hazardCatalogue'
import type { LadderRung, ReadTarget } from '../ladder'
import type { PointLoad, SpanModel } from '../model'
import { blockDrawing } from './rig'

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
  /** What else the plan holds, SI: numbers of its kind of test. */
  own: object
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
  /** To begin with: what is always so, and what nobody knows left open. */
  start: Partial<z.input<S>>
  /** Parts of that which hold example numbers, where nothing can be worked out without. */
  isExample?: true
  /** Fields that may be open, and what hangs on them: without them nothing is worked out. */
  open?: Readonly<Record<string, OpenField>>
  /** What is dangerous whatever the numbers say. */
  openHazard?: { id: HazardId; why: string }
  usual: UsualLadder
  commanded(settings: z.output<S>): Commanded
  /** Where another quantity may stand for the target. */
  readTarget?(settings: z.output<S>): ReadTarget
  /** For what lies on a span. */
  place?(settings: z.output<S>, targets: readonly number[]): PointLoad[][]
  view(settings: z.output<S>, context: LoadingContext): LoadingView
}

/** A field that nobody has filled in yet. */
export interface OpenField {
  title: string
  /** As it goes on after the title: “is not known: … hang on it”. */
  hangs: string
  /** Nobody goes on without it. */
  isNeeded?: true
  /** The article has a fact of it. */
  ofArticle?: true
}

/** @returns the loading as plans read it: its open fields may be left out */
export function defineLoading<S extends z.ZodType>(loading: Loading<S>): Loading<S> {
  const { open, settings } = loading
  if (!open || !(settings instanceof z.ZodObject)) return loading
  const shape = settings.shape as Record<string, z.ZodType>
  const waiting = Object.fromEntries(Object.keys(open).map(k => [k, mayWait(shape[k]!)]))
  return { ...loading, settings: settings.extend(waiting) as unknown as S }
}

/** Fields of a plan's loading that are open. */
export const openFieldsOf = ({ open }: Pick<Loading, 'open'>, settings: unknown): [key: string, field: OpenField][] =>
  Object.entries(open ?? {}).filter(([key]) => (settings as Record<string, unknown>)[key] === undefined)

/** What there is of a loading while numbers that it is worked out from are open. */
export const openView = (
  { title, openHazard }: Pick<Loading, 'title' | 'openHazard'>,
  open: readonly [key: string, field: OpenField][],
): LoadingView => ({
  set: [],
  facts: [],
  tables: [],
  hazards: openHazard ? [{ ...openHazard, energy: null, standoff: null }] : [],
  findings: open.map(([key, field]) => openFinding(`loading.${key}`, field)),
  drawing: blockDrawing(title, [
    { text: 'rig', tone: 'fixture' },
    { text: 'article', tone: 'article' },
    { text: 'readings', tone: 'fixture' },
  ]),
})

/** What somebody has to say yet. */
export const openFinding = (path: string, { title, hangs, isNeeded, ofArticle }: OpenField): Finding =>
  (isNeeded ? stop : warn)(
    'not-said',
    path,
    `${title} is not known: ${hangs} hang on it.`,
    ofArticle ? 'Enter it under Loading, or once for all with the article.' : 'Enter it under Loading.',
  )

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
