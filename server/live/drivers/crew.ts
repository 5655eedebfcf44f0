import {
  calledOn,
  type CalledRung,
  type LiveDerived,
  type RigBlock,
  type RigCommand,
  type RigState,
} from '@hypomet/core'
import type { Arrival, Driver } from './driver'
import type { LadderFollower } from './follower'

/** Rows a second: a reading stands from when it was said until the next. */
const RATE = 2

/** People with dial gauges: what they shout is typed, and stands until the next is said. */
export class CrewDriver implements Driver {
  readonly isThere = true
  readonly isByHand = true
  onArrival: (() => void) | undefined
  private given: number
  private changed = false

  /** @param said  readings so far, by role, SI; nothing on the article before the first */
  constructor(
    readonly follower: LadderFollower,
    private readonly commanded: string,
    private readonly said: Record<string, number>,
    private readonly derived: Pick<LiveDerived, 'feed' | 'at'>,
  ) {
    this.given = Math.floor(follower.state.t * RATE)
  }

  start(): void {}
  stop(): void {}

  get state(): RigState {
    return this.follower.state
  }

  command(command: RigCommand, seconds?: number): void {
    if (command === 'reached' && this.state.phase === 'unloading') this.said[this.commanded] = 0
    this.follower.command(command, seconds)
  }

  /**
   * What was read. On the way up a load that nobody reads is that of the rung, which is then reached; one that is read
   * is held against it. On the way down what is on stays on until it is read, or said to be off.
   *
   * @returns how a load that was read stands to its rung; null where none was, or none is asked for
   */
  read(readings: Readonly<Record<string, number>>, target: number): CalledRung | null {
    const load = readings[this.commanded] ?? this.derived.at(this.commanded, { ...this.said, ...readings }) ?? undefined
    const isUp = this.state.phase !== 'unloading' && this.state.phase !== 'ended'
    const stands = load === undefined || !isUp ? null : calledOn(load, target)
    Object.assign(this.said, isUp && load === undefined ? { [this.commanded]: target } : {}, readings)
    if (isUp && stands !== 'short') this.follower.command('reached')
    this.changed = true
    this.onArrival?.()
    return stands
  }

  /** What is read from now on, where the newest reading of a channel was written down wrong. */
  correct(role: string, value: number): void {
    this.said[role] = value
    this.changed = true
    this.onArrival?.()
  }

  poll(elapsed: number): Arrival {
    const read: RigBlock = {
      group: 0,
      t: [],
      channels: Object.fromEntries(Object.keys(this.said).map(role => [role, []])),
    }
    // What was just said is a row at once.
    while (this.given / RATE <= elapsed || this.changed) {
      this.changed = false
      const t = this.given++ / RATE
      read.t.push(t)
      for (const [role, value] of Object.entries(this.said)) read.channels[role]!.push(value)
    }
    const block = this.derived.feed(read)
    this.follower.feed(block)
    return { blocks: block.t.length > 0 ? [block] : [], said: [], arrived: null }
  }
}
