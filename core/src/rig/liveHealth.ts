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
  /** From the first rung: mean size of second differences, longest time without a change. */
  noiseSum: number
  noiseCount: number
  longestStill: number
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

const STILL_FOR = 2
const SILENT_FOR = 1
const NOISE_TIMES = 8
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

  /** @param quiet  the load comes down fast: jumps and noise are no news */
  feed(block: RigBlock, { isZero, quiet }: { isZero: boolean; quiet: boolean }): LiveFlag[] {
    const found: LiveFlag[] = []
    for (const [role, values] of Object.entries(block.channels)) {
      const w = this.known(role)
      for (let k = 0; k < values.length; k++) this.look(role, w, block.t[k]!, values[k]!, isZero, quiet, found)
    }
    return found
  }

  private known(role: string): Watched {
    let w = this.channels.get(role)
    if (!w)
      this.channels.set(
        role,
        (w = {
          noiseSum: 0,
          noiseCount: 0,
          longestStill: 0,
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
    isZero: boolean,
    quiet: boolean,
    found: LiveFlag[],
  ): void {
    if (!Number.isFinite(v)) {
      if (t - w.heardAt > SILENT_FOR) this.raise(role, w, 'silent', t, 'gives no number', found)
      return
    }
    w.flags.delete('silent')
    if (v !== w.b) {
      if (isZero && t - w.changedAt > w.longestStill) w.longestStill = t - w.changedAt
      w.changedAt = t
      w.flags.delete('still')
    } else if (!isZero && w.noiseSum > 0 && t - w.changedAt > Math.max(STILL_FOR, 4 * w.longestStill))
      this.raise(role, w, 'still', t, 'stands still to the last digit', found)
    const second = Math.abs(v - 2 * w.b + w.a)
    if (Number.isFinite(second)) {
      const rate = this.o.rates[role] ?? 10
      w.noiseNow = Number.isNaN(w.noiseNow)
        ? second
        : w.noiseNow + (second - w.noiseNow) * Math.min(1, 1 / Math.max(8, rate))
      if (isZero) {
        w.noiseSum += second
        w.noiseCount++
      } else if (!quiet && w.noiseCount > 8 && w.noiseSum > 0) {
        const usual = w.noiseSum / w.noiseCount
        const peak = Math.abs(this.o.peaks[role] ?? NaN)
        const step = Math.abs(v - w.b)
        if (step > Math.max(JUMP_SHARE * peak, JUMP_TIMES * usual))
          this.raise(role, w, 'jumped', t, 'jumped from one sample to the next', found)
        else if (t - w.jumpedAt > JUMP_SHOWS) w.flags.delete('jumped')
        if (w.noiseNow > NOISE_TIMES * usual && w.noiseNow > 0.002 * (peak || 0))
          this.raise(role, w, 'noisy', t, `is ${Math.round(w.noiseNow / usual)} times as noisy as at zero`, found)
        else if (w.noiseNow < 0.5 * NOISE_TIMES * usual) w.flags.delete('noisy')
      }
    }
    w.heardAt = t
    w.a = w.b
    w.b = v
  }

  private raise(role: string, w: Watched, code: LiveFlagCode, t: number, words: string, found: LiveFlag[]): void {
    if (code === 'jumped') w.jumpedAt = t
    if (w.flags.has(code)) return
    w.flags.add(code)
    found.push({ role, code, t, note: `${this.o.labels[role] ?? role} ${words}` })
  }
}
