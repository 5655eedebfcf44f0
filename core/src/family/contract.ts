import type { ResultDeclaration } from '../method/results'
import type { ReduceContext, Role, Table, TimeBase } from '../method/table'
import type { z } from 'zod'
import type { Kind } from '../quantity/index'
import type { Figure } from '../method/figure'
import type { Noise } from '../signal/noise'
import type { MethodOutput, Reduction } from '../method/reduction'
import type { SpecimenMemory } from '../rig/specimen'
import type { PlanView } from '../plan/planView'
import type { Stages } from './stages'

/** Links of the chain from a record to a result at which a person has a say. */
export const CHAIN_LINKS = ['zero', 'derive', 'filter', 'window', 'result'] as const
export type ChainLink = (typeof CHAIN_LINKS)[number]

/** What settings are proposed from; a plan as its schema reads it, or null where there is none. */
export interface ProposedFrom<Plan = unknown> {
  plan: Plan | null
  table: Table
  outcome: string
  /** What people called out, where nothing else recorded; the rest of the record stands from one to the next. */
  calls?: readonly CallOut[] | undefined
  /** Largest load that somebody read or heard as it broke, SI. */
  peak?: number | null | undefined
  sensors?: ReduceContext['sensors'] | undefined
}

/** A reading that was called out, SI; null where only the other was read. */
export interface CallOut {
  /** s on the run's clock */
  t: number
  load: number | null
  reading: number | null
}

/** A drawing of a reduction; null where there is nothing of it to draw. The first of a family is its main one. */
export interface FigureOutline<S = unknown> {
  title: string
  draw(reduction: Pick<Reduction, 'traces' | 'results' | 'tables'>, settings: S, view: PlanView | null): Figure | null
}

/** A calculation that goes on from the results, as far as they fill it in. */
export interface FollowUp {
  calc: string
  title: string
  settings: Record<string, unknown>
}

/** A measured value with what stands behind it, SI. */
export interface Measured {
  label: string
  kind: Kind
  mean: number
  sd: number | null
  n: number
}

/** How specimens of one article are set beside one another. */
export interface SetOutline {
  /** Results that are compared, the first by default. */
  results: readonly string[]
  /** A setting that must be the same for two of them to be compared. */
  alike?: string
  /** A setting that says that an article was tested before: it is no further specimen. */
  again?: string
  /** What each specimen's plan says of it, as a measure to draw results over. */
  measure?: {
    key: string
    label: string
    kind: Kind
    /** What becomes of a specimen past the place where it meets the limit. */ past?: string
  }
}

/** Scatter of one result, and what it is off by for the noise; SI. */
export interface ResultScatter {
  u: number
  dof: number
  bias?: number
}

/** What is known of the doubt of readings beside what the sheets of their sensors say. */
export interface ReadingDoubt<S> {
  /** Roles that one sensor reads: its errors are common to them. */
  together?: readonly string[]
  /** Scatter of a row's readings, by role, where rows that read the same again show it. */
  noise?(table: Table, settings: S): Record<string, Noise>
  /** Values that are set by a stop, not read. */
  isSet?(role: string, value: number): boolean
  /** Scatter of results that the family works out by itself. */
  scatter?(table: Table, settings: S, reduction: Reduction): Record<string, ResultScatter>
}

/** What a record of one kind of test is made of, and what else is said of it. */
export interface Family<
  S extends z.ZodType = z.ZodType,
  P extends z.ZodType = z.ZodType,
  A extends z.ZodType = z.ZodType,
  Truth = unknown,
  Memory extends SpecimenMemory = SpecimenMemory,
> {
  id: string
  title: string
  purpose: string
  version: string
  /** `*` takes free roles. */
  roles: Record<string, Role>
  /** Where settings or a plan say what is read: other roles, or null for no record at all. */
  rolesOf?(said: Partial<z.output<S>>): Record<string, Role> | null
  timeBase?: TimeBase
  settings: S
  results: Record<string, ResultDeclaration>
  reduce(table: Table, settings: z.output<S>, context: ReduceContext): Reduction
  /** What it reads is noise by itself: its scatter says nothing of an error. */
  isNoise?: true
  /** Uncertainties that it brings are of its fit alone: those of the sensors come on top. */
  addsToUncertainty?: true
  doubt?: ReadingDoubt<z.output<S>>
  /** Settings to begin a reduction with, as far as plan and record say them. */
  propose(from: ProposedFrom<z.output<P>>): Record<string, unknown>
  figures: Record<string, FigureOutline<z.output<S>>>
  /** Where a setting belongs that does not show it by itself. */
  links?: Readonly<Record<string, ChainLink>>
  /**
   * What zeros are to be without, and which other windows are to be steady in it; windows that are to hold a whole
   * pulse of a channel; and a range of the load in which it is to go straight with a channel.
   */
  checked?: {
    load: string
    steady?: readonly string[]
    pulses?: Readonly<Record<string, string>>
    straight?: { key: string; over: string }
  }
  /** Settings that are of one record, article or gauge, and are not carried over to a twin’s. */
  ownOfRecord: readonly string[]
  /** Where one record holds several configurations: the one that its results speak of, as far as settings say. */
  configOf?(settings: Readonly<Record<string, unknown>>): string | null
  /**
   * A run keeps a piece for each of these: what one is called, and which of them is meant where nobody says. Another is
   * chosen by the setting `piece`.
   */
  inPieces?: { what: string; usual(pieces: readonly Table[], plan: z.output<P> | null): number }
  /** Rows to be reduced from the record of a run, where those are not the samples themselves. */
  fromRun?(table: Table, plan: z.output<P> | null, name: string): Table
  set?: SetOutline
  /** Values that may take the place of a constant, where somebody decides so. */
  constants?(output: Pick<MethodOutput, 'results'>): Measured[]
  followUps?(
    output: Pick<MethodOutput, 'results' | 'tables'>,
    settings: z.output<S>,
    plan: z.output<P> | null,
  ): FollowUp[]
  stages: Stages<P, A, Truth, Memory>
}

/** A family as general code holds it: what its own schemas parsed goes back into its own functions. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the registry forgets which family's types they are
export type AnyFamily = Family<any, any, any, any, any>

export const defineFamily = <
  S extends z.ZodType,
  P extends z.ZodType,
  A extends z.ZodType,
  Truth,
  Memory extends SpecimenMemory,
>(
  family: Family<S, P, A, Truth, Memory>,
): Family<S, P, A, Truth, Memory> => family
