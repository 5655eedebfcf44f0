import type { RigBlock } from './block'

export type LiveFlagCode = 'still' | 'silent' | 'noisy' | 'jumped'

export interface LiveFlag {
  role: string
  code: LiveFlagCode
  /** s, when it began to show. */
  t: number
  note: string
}

interface Watched {
  /** Mean size of second differences: on the first rung, on the holds and on the ways between so far. */
  zero: Usual
  holds: Usual
  ramps: Usual
  /** Of the hold that goes on, which counts once it is over. */
  thisHold: Usual
  /** Longest time without a change on the first rung. */
  longestStill: number
  /** Samples since it began to be held, or to be moved. */
  since: number
  isMoved: boolean
  /** The two readings before. */
  a: number
  b: number
  changedAt: number
  heardAt: number
  /** Running mean of second differences, s of memory about one. */
  noiseNow: number
  jumpedAt: number
  flags: Set<LiveFlagCode>
}

interface Usual {
  sum: number
  n: number
}

const STILL_FOR = 2
const SILENT_FOR = 1
const NOISE_TIMES = 8
/** Samples that are enough to compare with. */
const FEWEST = 20
/** A jump from sample to sample, of what is expected at most, and of the noise. */
const JUMP_SHARE = 0.1
const JUMP_TIMES = 40
/** s */
const JUMP_SHOWS = 3

/**
 * Looks at every sample of every channel for what a record should not have: a reading that stands still, stops, grows
 * noisy or jumps. What is usual for a channel is learned on the first rung. Each thing is said once a channel, and
 * again
 * when it has been good meanwhile.
 */
export class LiveHealth {
  private readonly channels = new Map<string, Watched>()

  constructor(
    private readonly o: {
      labels: Readonly<Record<string, string>>
      peaks: Readonly<Record<string, number | null>>
      rates: Readonly<Record<string, number>>
    },
  ) {}

  /** What stands against a channel now. */
  flags(): Record<string, LiveFlagCode[]> {
    return Object.fromEntries(
      [...this.channels].filter(([, w]) => w.flags.size > 0).map(([role, w]) => [role, [...w.flags]]),
    )
  }

  /**
   * @param quiet  the load comes down fast, or what is read shakes by itself: jumps and noise are no news
   * @param isMoved  on the way from one rung to the next: compared with the ways before
   */
  feed(block: RigBlock, moment: { isZero: boolean; quiet: boolean; isMoved: boolean }): LiveFlag[] {
    const found: LiveFlag[] = []
    for (const [role, values] of Object.entries(block.channels)) {
      // What is set is no gauge.
      if (!(role in this.o.labels)) continue
      const w = this.known(role)
      for (let k = 0; k < values.length; k++) this.look(role, w, block.t[k]!, values[k]!, moment, found)
    }
    return found
  }

  private known(role: string): Watched {
    let w = this.channels.get(role)
    if (!w)
      this.channels.set(
        role,
        (w = {
          zero: { sum: 0, n: 0 },
          holds: { sum: 0, n: 0 },
          ramps: { sum: 0, n: 0 },
          thisHold: { sum: 0, n: 0 },
          longestStill: 0,
          since: 0,
          isMoved: false,
          a: NaN,
          b: NaN,
          changedAt: NaN,
          heardAt: NaN,
          noiseNow: NaN,
          jumpedAt: NaN,
          flags: new Set(),
        }),
      )
    return w
  }

  private look(
    role: string,
    w: Watched,
    t: number,
    v: number,
    { isZero, quiet, isMoved }: Parameters<LiveHealth['feed']>[1],
    found: LiveFlag[],
  ): void {
    if (isMoved !== w.isMoved) turn(w, isMoved)
    w.since++
    if (!Number.isFinite(v)) {
      if (t - w.heardAt > SILENT_FOR) this.raise(role, w, 'silent', t, 'gives no number', found)
      return
    }
    w.flags.delete('silent')
    if (v !== w.b) {
      if (isZero && t - w.changedAt > w.longestStill) w.longestStill = t - w.changedAt
      w.changedAt = t
      w.flags.delete('still')
    } else if (!isZero && w.zero.sum > 0 && t - w.changedAt > Math.max(STILL_FOR, 4 * w.longestStill))
      this.raise(role, w, 'still', t, 'stands still to the last digit', found)
    const second = Math.abs(v - 2 * w.b + w.a)
    // The first two after a turn reach back over it.
    if (Number.isFinite(second) && w.since > 2) {
      const rate = this.o.rates[role] ?? 10
      w.noiseNow = Number.isNaN(w.noiseNow)
        ? second
        : w.noiseNow + (second - w.noiseNow) * Math.min(1, 1 / Math.max(8, rate))
      const usual = usualOf(w, isZero)
      if (!isZero && !quiet && w.zero.n > 8 && w.zero.sum > 0 && usual !== null)
        this.judge(role, w, t, { step: isMoved ? second : Math.abs(v - w.b), usual, rate }, found)
      if (!quiet) learn(isZero ? w.zero : isMoved ? w.ramps : w.thisHold, second)
    }
    w.heardAt = t
    w.a = w.b
    w.b = v
  }

  /** A step and the noise against what is usual of this channel where it stands. */
  private judge(
    role: string,
    w: Watched,
    t: number,
    { step, usual, rate }: { step: number; usual: number; rate: number },
    found: LiveFlag[],
  ): void {
    const peak = Math.abs(this.o.peaks[role] ?? NaN)
    if (step > Math.max(JUMP_SHARE * peak, JUMP_TIMES * usual))
      this.raise(role, w, 'jumped', t, 'jumped from one sample to the next', found)
    else if (t - w.jumpedAt > JUMP_SHOWS) w.flags.delete('jumped')
    if (w.since > Math.max(FEWEST, rate) && w.noiseNow > NOISE_TIMES * usual && w.noiseNow > 0.002 * (peak || 0)) {
      const before = w.isMoved ? 'on the ways before' : w.holds.n > 0 ? 'on the holds before' : 'at zero'
      this.raise(role, w, 'noisy', t, `is ${Math.round(w.noiseNow / usual)} times as noisy as ${before}`, found)
    } else if (w.noiseNow < 0.5 * NOISE_TIMES * usual) w.flags.delete('noisy')
  }

  private raise(role: string, w: Watched, code: LiveFlagCode, t: number, words: string, found: LiveFlag[]): void {
    if (code === 'jumped') w.jumpedAt = t
    if (w.flags.has(code)) return
    w.flags.add(code)
    found.push({ role, code, t, note: `${this.o.labels[role] ?? role} ${words}` })
  }
}

const learn = (usual: Usual, second: number): void => {
  usual.sum += second
  usual.n++
}

/** Held or moved from now on: a hold that is over counts among those before. */
function turn(w: Watched, isMoved: boolean): void {
  w.isMoved = isMoved
  w.since = 0
  w.noiseNow = NaN
  w.holds.sum += w.thisHold.sum
  w.holds.n += w.thisHold.n
  w.thisHold = { sum: 0, n: 0 }
}

/** What is usual where it stands now; null where there is too little to compare with. */
function usualOf({ zero, holds, ramps, isMoved }: Watched, isZero: boolean): number | null {
  const mean = ({ sum, n }: Usual) => (n > 0 ? sum / n : 0)
  if (isZero) return mean(zero)
  if (!isMoved) return Math.max(mean(zero), mean(holds))
  return ramps.n >= FEWEST ? Math.max(mean(zero), mean(ramps)) : null
}
