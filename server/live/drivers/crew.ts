import type { RigBlock, RigCommand, RigState } from '@hypomet/core'
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
    private readonly follower: LadderFollower,
    private readonly commanded: string,
    private readonly said: Record<string, number>,
  ) {
    this.given = Math.floor(follower.state.t * RATE)
  }

  start(): void {}
  stop(): void {}

  get state(): RigState {
    return this.follower.state
  }

  command(command: RigCommand, seconds?: number): void {
    this.follower.command(command, seconds)
  }

  /** What was read with the load on: the rung is reached. A load that nobody reads is that of the rung. */
  read(readings: Readonly<Record<string, number>>, target: number): void {
    Object.assign(this.said, { [this.commanded]: target }, readings)
    this.follower.command('reached')
    this.changed = true
    this.onArrival?.()
  }

  poll(elapsed: number): Arrival {
    const block: RigBlock = {
      group: 0,
      t: [],
      channels: Object.fromEntries(Object.keys(this.said).map(role => [role, []])),
    }
    // What was just said is a row at once.
    while (this.given / RATE <= elapsed || this.changed) {
      this.changed = false
      const t = this.given++ / RATE
      block.t.push(t)
      for (const [role, value] of Object.entries(this.said)) block.channels[role]!.push(value)
    }
    this.follower.feed(block)
    return { blocks: block.t.length > 0 ? [block] : [], said: [], arrived: null }
  }
}
