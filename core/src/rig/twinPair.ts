import type { RigBlock } from './block'

interface Sample {
  t: number
  value: number
}

/** Samples of the faster one that wait for the slower, at most. */
const MOST_WAITING = 200_000

/**
 * How far two channels that ought to agree are apart. Read together they are compared sample by sample; at two rates
 * where the slower one is read, with the faster one between its neighbours there: on a ramp a reading of a moment ago
 * is no disagreement.
 */
export class TwinPair {
  /** What the newest block told. */
  apart: { t: readonly number[]; values: readonly number[] } = NOTHING
  private fast: Sample[] = []
  private slow: Sample[] = []
  private readonly isTwinSlow: boolean

  constructor(
    private readonly role: string,
    private readonly twin: string,
    rates: Readonly<Record<string, number>>,
  ) {
    this.isTwinSlow = (rates[twin] ?? 0) <= (rates[role] ?? 0)
  }

  feed({ t, channels }: RigBlock): void {
    const [own, twin] = [channels[this.role], channels[this.twin]]
    if (own && twin) {
      this.apart = { t, values: own.map((v, k) => v - twin[k]!) }
      return
    }
    this.apart = NOTHING
    if (!own && !twin) return
    const values = (own ?? twin)!
    const into = (own === undefined) === this.isTwinSlow ? this.slow : this.fast
    values.forEach((value, k) => {
      if (value === value) into.push({ t: t[k]!, value })
    })
    if (this.fast.length > MOST_WAITING) this.fast.splice(0, this.fast.length - MOST_WAITING)
    this.compare()
  }

  /** Each of the slower one that the faster has passed. */
  private compare(): void {
    const found: Sample[] = []
    let k = 0
    let done = 0
    for (const s of this.slow) {
      while (k < this.fast.length && this.fast[k]!.t < s.t) k++
      const after = this.fast[k]
      if (!after) break
      done++
      const before = this.fast[k - 1]
      if (!before && after.t > s.t) continue
      const share = before && after.t > before.t ? (s.t - before.t) / (after.t - before.t) : 1
      const fast = share === 1 || !before ? after.value : before.value + share * (after.value - before.value)
      found.push({ t: s.t, value: this.isTwinSlow ? fast - s.value : s.value - fast })
    }
    this.slow.splice(0, done)
    // The neighbour before the next one may lie just before what has been compared.
    if (k > 1) this.fast.splice(0, k - 1)
    if (found.length > 0) this.apart = { t: found.map(s => s.t), values: found.map(s => s.value) }
  }
}

const NOTHING = { t: [], values: [] } as const
