import type * as z from 'zod'
import type { QuantityInput } from '../method/settings'
import type { Kind } from '../quantity/index'
import type { DesignFrom } from './designFrom'
import type { Finding } from './finding'
import type { LoadingKind } from './loading/index'
import type { NeededChannel } from './plan'

/** Channels a plan begins with: those it needs, and what is commanded where that is read by a sensor. */
export function firstChannels(
  { needed }: Pick<Planning, 'needed'>,
  { role, label, kind }: NeededChannel,
): NeededChannel[] {
  return needed.some(n => n.role === role) || kind === 'length' || kind === 'ratio'
    ? [...needed]
    : [...needed, { role, label, kind }]
}

/** What a plan's own numbers may follow from. */
export interface FirstKnown {
  /** What limits ask of what is commanded; null where none does. */
  goal: QuantityInput | null
  /** The article's. */
  length: QuantityInput | null
  /** Walls of limits by result, SI. */
  asked: Readonly<Record<string, number>>
  /** Of the article's facts, SI, by key. */
  facts: Readonly<Record<string, number>>
}

/** How a way of loading begins for one kind of test. */
export interface Beginning {
  settings?: Record<string, unknown>
  /** SI, where neither a limit nor a fact says how far to go. */
  goal?: number
  /** The fact of the article that says so, by its key. */
  goalBy?: string
  /** s */
  hold?: number
  /** Rungs as shares of the goal, where it is not climbed in steps. */
  shares?: readonly number[]
  /** What its targets are written in, metric and not, where the campaign’s own would not do. */
  units?: readonly [metric: string, imperial: string]
}

/** What a kind of test declares of its planning; everything else of a plan is the same for all. */
export interface Planning<P = never> {
  /** How its articles are loaded, the usual way first. */
  loadings: readonly LoadingKind[]
  /** Channels it cannot do without, beside the one that is commanded. */
  needed: readonly NeededChannel[]
  /** Where what is needed depends on the plan. */
  neededOf?(plan: P): readonly NeededChannel[]
  /** What is read against the ladder, where plans of a kind differ. */
  readOf?(plan: P): { role: string; kind: Kind } | null
  /** What is read against the ladder. */
  read: { role: string; kind: Kind } | null
  /** Role of the channel that a result is a reading of, where it is one. */
  readBy: Readonly<Record<string, string>>
  /** Numbers of its own that a plan holds. */
  own: z.ZodObject | null
  /** A plan's own numbers to begin with, as far as limits and article say them. */
  first?(known: FirstKnown): Record<string, unknown>
  /** Numbers of its own that a way of loading says itself. */
  inLoading?: Partial<Record<LoadingKind, readonly string[]>>
  /** How its ways of loading begin. */
  begins?: Partial<Record<LoadingKind, Beginning>>
  /** What of its own numbers does not go with the rest of the plan. */
  findings?(plan: P, show: (si: number, kind: Kind) => string): Finding[]
  readAt?(plan: P): number | undefined
  /** Target that limits are read at. */
  design?(plan: P): number | undefined
  /** Which limit that was derived from, until somebody says that it is right. */
  designFrom?(plan: P): DesignFrom | undefined
  /** What its checklist asks beside sensors, hazards and sign-off. */
  setUp: readonly { key: string; text: string; why: string }[]
}

/** How a rig that is told a quantity directly begins. */
export const direct = (commands: Kind, name: string, role: string, goal: number, hold?: number): Beginning => ({
  settings: { commands, name, role },
  goal,
  ...(hold === undefined ? {} : { hold }),
})
