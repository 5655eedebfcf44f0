import type { LiveDerived, RigCommand, RigState, SimulatedRig, SimulatedState } from '@hypomet/core'
import type { Arrival, Driver } from './driver'

/** So many samples of all channels are simulated in one go at most: an abort of another run is heard meanwhile. */
const MOST_AT_ONCE = 30_000

/** The stand-in for a rig, as fast as the clock that it is asked by. */
export class SimulatedDriver implements Driver {
  readonly isThere = true
  readonly unloads = true
  private readonly channels: number
  /** s on the run's clock by which the rig is slower than was asked for. */
  lag = 0

  constructor(
    private readonly rig: SimulatedRig,
    private readonly rate: number,
    private current: SimulatedState,
    private readonly derived: Pick<LiveDerived, 'feed'>,
  ) {
    this.channels = rig.groups.reduce((n, g) => n + g.readers.length * Math.max(1, g.rate / rate), 0)
  }

  start(): void {}
  stop(): void {}

  get state(): RigState {
    return this.current
  }

  poll(elapsed: number): Arrival {
    const due = Math.floor((elapsed - this.lag) * this.rate) + 1 - this.current.given[0]!
    const n = Math.min(due, Math.max(1, Math.floor(MOST_AT_ONCE / this.channels)))
    if (n <= 0) return { blocks: [], said: [], arrived: null }
    // What cannot be kept up with is not owed.
    if (n < due) this.lag += (due - n) / this.rate
    // What comes after a rung is left waits for the next look, which then knows of it.
    const { state, blocks } = this.rig.advance(this.current, n, true)
    this.current = state
    return { blocks: blocks.map(b => this.derived.feed(b)), said: [], arrived: null }
  }

  command(command: RigCommand, seconds?: number): void {
    this.current = this.rig.command(this.current, command, seconds)
  }
}
