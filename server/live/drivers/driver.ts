import type { RigBlock, RigCommand, RigState } from '@hypomet/core'

/** Something that a driver has to say of what it reads. */
export interface Said {
  kind: string
  note: string
  /** s on the run's clock; now where it is left out. */
  t?: number
  /** The ladder is to stand until somebody has looked. */
  hold?: boolean
  /** Channel that it speaks of. */
  role?: string
  /** Size of what it speaks of, in what is commanded. */
  value?: number
}

export interface Arrival {
  blocks: RigBlock[]
  said: Said[]
  /** When the newest of it came in, ms of this process's clock; null where the samples' own stamps say it. */
  arrived: number | null
}

/** Where a run's samples come from: a stand-in for a rig, a logger's live stream, or people who read and shout. */
export interface Driver {
  start(): void
  stop(): void
  /** What has come since it was last asked, with `elapsed` seconds gone on the run's clock. */
  poll(elapsed: number): Arrival
  command(command: RigCommand, seconds?: number): void
  readonly state: RigState
  /** Called when something has come in, so that nobody waits for the next tick. */
  onArrival?: (() => void) | undefined
  readonly isThere: boolean
  /** Follows what is read, counted from the run's tare. */
  readonly follower?: { zeroOf: () => number }
  /** Readings stand from one that is said to the next: that they stand still is no news. */
  readonly isByHand?: boolean
  /** It unloads by itself when it is told to. */
  readonly unloads?: boolean
  /** s on the run's clock by which it is behind what was asked of it. */
  readonly lag?: number
}
