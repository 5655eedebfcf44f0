import type {
  Ahead,
  HoldMean,
  LiveFigure,
  LiveFlagCode,
  LiveOwnResult,
  OnsetEstimate,
  Projection,
  RigPhase,
} from '@hypomet/core'
import type { LiveEvent } from '../db/schema'

/** Least and most of channels since the frame before, and when; channels in the order in which they were asked for. */
export interface StripPiece {
  /** s on the run's clock */
  t: number
  lo: (number | null)[]
  hi: (number | null)[]
}

/** How the recorder keeps up. */
export interface RecorderState {
  /** s since what is not stored yet came in. */
  behind: number
  /** Samples of all channels that are stored, and that wait. */
  stored: number
  waiting: number
  /** What is wrong, in words; empty while all is well. */
  problem: string
  /** Samples of full rate that had to be thinned, because nothing could be stored. */
  thinned: number
}

/** What a console receives, up to thirty times a second: thinned samples and where the ladder stands. */
export interface LiveFrame {
  t: number[]
  commanded: number[]
  read: number[]
  state: { t: number; rung: number; phase: RigPhase; elapsed: number; end: string | null; countdown: number | null }
  events: LiveEvent[]
  closed: boolean
  strip?: StripPiece
  /** Strips of before this console looked. */
  strips?: StripPiece[]
  /** What is said less often: five times a second. */
  now?: LiveNow
}

export interface LiveNow {
  /** Newest reading of every channel, its zero taken off; null before there is one. */
  latest: Record<string, number | null>
  /** s since a channel last gave a number, of those that are late. */
  ages: Record<string, number>
  /** The tare that readings count from: when it was taken, null before it is; and what the guides read then. */
  tared: number | null
  zeros: Record<string, number>
  /** Who has the controls, and who else looks on. */
  controller: string
  watching: string[]
  health: Record<string, LiveFlagCode[]>
  holds: HoldMean[]
  /** Means of every channel over the rungs held so far; none where there are too many channels for a table. */
  points: { rung: number; means: Record<string, number> }[]
  /** At the next rung and at the load that limits are read at. */
  next: Projection | null
  design: Projection | null
  /** Growth against growth over load, by the channel that a rule watches, else by what is read. */
  onset: { role: string; growth: number[]; overLoad: number[]; estimate: OnsetEstimate | null }
  /** Where watched temperatures are heading. */
  approaches: { role: string; steady: number; half: number; timeConstant: number }[]
  /** What its kind of test is read for; null where load and governing reading say all. */
  kind: { figures: LiveFigure[]; stands: string; ahead: Ahead | null; last: Ahead | null } | null
  /** Results that the article has of its own, as far as the run has come. */
  own: LiveOwnResult[]
  recorder: RecorderState
  /** From a sample to what was done about it, ms: the newest, and the longest so far. */
  latency: { last: number; worst: number }
  /** Of a live stream: whether it is there. */
  source: 'there' | 'lost'
}
