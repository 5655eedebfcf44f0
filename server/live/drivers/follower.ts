import {
  commandLadder,
  startLadder,
  stepLadder,
  targetOf,
  type Ladder,
  type RigBlock,
  type RigCommand,
  type RigState,
} from '@hypomet/core'

/** A load within this share of the highest rung of its target has arrived, when its mean over so many seconds has. */
const ARRIVED = 0.02
const OVER = 0.5

/**
 * A load that is so far above its target, as a share of the highest rung, for so many seconds, is one that no rung
 * plans.
 */
const UNPLANNED = 0.05
const FOR = 1

/** Follows the ladder by what is read, where people or another system put the load on. */
export class LadderFollower {
  state: RigState
  private readonly ladder: Ladder
  private overSince = NaN
  private saidAt = -1
  private recent: { t: number; load: number }[] = []
  /** What the load's readings count from. */
  zeroOf: () => number = () => 0

  constructor(
    rungs: Ladder['rungs'],
    private readonly commanded: string,
    private readonly maxTarget: number,
    state: RigState | null,
  ) {
    this.ladder = { rungs, by: 'read' }
    this.state = state ?? { ...startLadder(this.ladder), load: 0 }
  }

  command(command: RigCommand, seconds?: number): void {
    this.state = commandLadder(this.ladder, this.state, command, seconds)
  }

  /** A load above the rung's target that nobody has spoken of: how much it is, once a rung; null otherwise. */
  unplanned(): number | null {
    const { state } = this
    const over = state.load - targetOf(this.ladder, state)
    if (!['hold', 'waiting', 'paused'].includes(state.phase) || over < UNPLANNED * this.maxTarget) this.overSince = NaN
    else if (Number.isNaN(this.overSince)) this.overSince = state.t
    if (!(state.t - this.overSince >= FOR) || this.saidAt === state.rung) return null
    this.saidAt = state.rung
    return over
  }

  /** Samples as they came. */
  feed(block: RigBlock): void {
    const loads = block.channels[this.commanded]
    block.t.forEach((t, k) => this.step(t, loads?.[k] ?? NaN))
  }

  /** Time goes on without a sample. */
  step(t: number, load: number): void {
    if (Number.isFinite(load)) {
      this.recent.push({ t, load })
      while (this.recent[0]!.t < t - OVER) this.recent.shift()
    }
    const mean = this.recent.reduce((s, r) => s + r.load, 0) / this.recent.length - this.zeroOf()
    const s: RigState = { ...this.state, load: Number.isFinite(mean) ? mean : this.state.load }
    const arrived = this.recent.length > 0 && Math.abs(mean - targetOf(this.ladder, s)) <= ARRIVED * this.maxTarget
    const dt = t - s.t
    if (dt > 0) stepLadder(this.ladder, s, dt, arrived)
    s.t = t
    this.state = s
  }
}
