import type { RigBlock } from './block'

/** A zero as it was taken: of each channel its mean and scatter over the second before, as read. */
export interface TareTaken {
  /** s on the run's clock, where that second ends. */
  t: number
  zeros: Record<string, { mean: number; sd: number; n: number }>
}

/** Readings are gathered by so many seconds; two such make a tare. */
const BIN = 0.5
/** Blocks of a fast pace span several of them; a longer silence parts one half from the other. */
const LONGEST_BLOCK = 4
/** Halves of a quiet second agree within this share of the highest rung, or within so many of their scatter. */
const QUIET = 0.002
const SCATTERS = 4
/** A load of this share of the highest rung is on. */
export const LOADED_SHARE = 0.02

interface Sums {
  n: number
  sum: number
  squares: number
}
type Bin = Map<string, Sums>

/**
 * The zero that readings count from: taken once, at a moment, and not averaged on. Until then a channel counts from
 * its first reading.
 */
export class Tare {
  taken: TareTaken | null = null
  private readonly first = new Map<string, number>()
  private bins: [Bin, Bin] = [new Map(), new Map()]
  private open: Bin = new Map()
  private at = NaN

  constructor(
    private readonly commanded: string,
    private readonly maxTarget: number,
  ) {}

  feed({ t, channels }: RigBlock): void {
    const newest = t.at(-1)
    if (newest === undefined) return
    const bin = Math.floor(newest / BIN)
    if (bin > this.at) {
      this.bins = bin <= this.at + LONGEST_BLOCK ? [this.bins[1], this.open] : [new Map(), this.open]
      this.open = new Map()
    }
    if (!(bin < this.at)) this.at = bin
    for (const [role, values] of Object.entries(channels)) {
      let s = this.open.get(role)
      if (!s) this.open.set(role, (s = { n: 0, sum: 0, squares: 0 }))
      const from = this.first.get(role)
      for (const v of values) {
        if (!Number.isFinite(v)) continue
        const origin = from ?? this.first.get(role) ?? this.begin(role, v)
        // About the first reading, so that no digits are lost.
        s.n++
        s.sum += v - origin
        s.squares += (v - origin) ** 2
      }
    }
  }

  private begin(role: string, v: number): number {
    this.first.set(role, v)
    return v
  }

  /** What a channel's readings are counted from. */
  zeroOf(role: string): number {
    return this.taken?.zeros[role]?.mean ?? this.first.get(role) ?? 0
  }

  /** What is on by the last whole second, less the zero that holds. */
  loadOn(): number {
    const last = this.lastSecond().get(this.commanded)
    return last ? last.mean - this.zeroOf(this.commanded) : 0
  }

  /** Whether so much is on that a zero taken now would swallow it. */
  get isLoaded(): boolean {
    return Math.abs(this.loadOn()) > LOADED_SHARE * this.maxTarget
  }

  /** The load has stood still for a second. */
  get isQuiet(): boolean {
    const [a, b] = this.lastOf(this.commanded)
    if (!a || !b || a.n < 2 || b.n < 2) return false
    const sd = Math.sqrt(Math.max(0, (a.squares - a.sum ** 2 / a.n + b.squares - b.sum ** 2 / b.n) / (a.n + b.n - 2)))
    const apart = Math.abs(b.sum / b.n - a.sum / a.n)
    return apart <= Math.max(QUIET * this.maxTarget, SCATTERS * sd * Math.sqrt(1 / a.n + 1 / b.n))
  }

  /** Takes the last whole second as the zero; a channel that was not read in it keeps its first reading. */
  take(t: number): TareTaken {
    const read = this.lastSecond()
    const zeros = Object.fromEntries(
      [...this.first].map(([role, mean]) => [role, read.get(role) ?? { mean, sd: 0, n: 1 }]),
    )
    return (this.taken = { t, zeros })
  }

  /** A zero that people read, or that was taken before. */
  set(taken: TareTaken): void {
    this.taken = { ...taken, zeros: { ...this.taken?.zeros, ...taken.zeros } }
  }

  /** The two newest halves in which a channel was read. */
  private lastOf(role: string): Sums[] {
    return [...this.bins, this.open].flatMap(bin => bin.get(role) ?? []).slice(-2)
  }

  private lastSecond(): Map<string, { mean: number; sd: number; n: number }> {
    const found = new Map<string, { mean: number; sd: number; n: number }>()
    for (const [role, origin] of this.first) {
      const parts = this.lastOf(role)
      const [n, sum, squares] = [
        parts.reduce((s, p) => s + p.n, 0),
        parts.reduce((s, p) => s + p.sum, 0),
        parts.reduce((s, p) => s + p.squares, 0),
      ]
      if (n === 0) continue
      const sd = n > 1 ? Math.sqrt(Math.max(0, (squares - sum ** 2 / n) / (n - 1))) : 0
      found.set(role, { mean: origin + sum / n, sd, n })
    }
    return found
  }
}
