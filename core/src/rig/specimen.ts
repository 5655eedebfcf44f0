import type { PlanChannel } from '../plan/channels'
import type { GaugeMake } from './gauge'
import type { RigEnd } from './ladder'

/** What every simulated article remembers; plain data. */
export interface SpecimenMemory {
  /** A weakness that it was given, in what is commanded: it gives way there at the latest. */
  cap: number | null
}

/**
 * How an article answers to what is put on it, in the stand-in for a rig. The rig brings the ladder, actuators, gauges
 * and
 * faults; this brings the physics. All SI; `applied` is what the actuators put on, the commanded one first.
 */
export interface Specimen<
  Plan = unknown,
  Article = unknown,
  Truth = unknown,
  Memory extends SpecimenMemory = SpecimenMemory,
> {
  /**
   * Draws what the article really does, of which the plan knows nothing; the same seed gives the same article.
   * `strength`: what is predicted of it, in what is commanded.
   */
  draw(plan: Plan, article: Article, seed: number, strength?: number | null): Truth
  rest(truth: Truth): Memory
  /** A step of `dt` seconds, in place; says how it ended where it gives way now. */
  step(truth: Truth, memory: Memory, applied: readonly number[], dt: number): RigEnd | null
  /** The channel of what is commanded reads what its reader says, where the article has a say in it. */
  readsCommanded?: boolean
  /** What a channel that does not read the load ought to read; null leaves it to the general guess. */
  reader(
    plan: Plan,
    article: Article,
    truth: Truth,
    channel: PlanChannel,
  ): ((memory: Memory, applied: readonly number[]) => number) | null
  /** What is known of its gauges beyond a fair one. */
  gauge?(truth: Truth, channel: PlanChannel): Partial<GaugeMake>
}

/** What is left of the load when something gave way. */
export const LEFT_AFTER_BREAK = 0.12

/** Of a room, K. */
export const ROOM_TEMPERATURE = 293.15
