import type { Kind } from '../quantity/index'
import { predictionBand } from '../statistics/predictionBand'

/** Means of a hold: what was on, and what was read. Both less their zero. */
export interface HoldMean {
  rung: number
  load: number
  reading: number
}

/** What a reading will be at a load that is not on yet. */
export interface Projection {
  value: number
  /** Half width of the 95 % band. */
  half: number
  from: 'readings' | 'calculation'
}

/** What settles in after a rung is reached is left out of its mean, s. */
const SETTLING = 2
/** A line wants this many holds; the newest so many make it, so that it follows a curve. */
const FEWEST = 4
const NEWEST = 6

/** Kinds that are read as they stand: what they read at rest is no zero to take off. */
const AS_THEY_STAND = new Set<Kind>([
  'temperature',
  'voltage',
  'current',
  'power',
  'rotation',
  'frequency',
  'level',
  'ratio',
])
export const hasZero = (kind: Kind | undefined): boolean => kind === undefined || !AS_THEY_STAND.has(kind)

/** Gathers the means of the holds as they are held. */
export class HoldMeans {
  private readonly before: HoldMean[] = []
  private sums = { rung: -1, load: 0, reading: 0, n: 0 }

  /** Of each rung that was held, the one that goes on now last. */
  get means(): HoldMean[] {
    const { rung, load, reading, n } = this.sums
    return n === 0 ? [...this.before] : [...this.before, { rung, load: load / n, reading: reading / n }]
  }

  /** Means of a rung are taken anew from here on. */
  forget(rung: number): void {
    const at = this.before.findIndex(m => m.rung === rung)
    if (at >= 0) this.before.splice(at, 1)
    if (this.sums.rung === rung) this.sums = { rung, load: 0, reading: 0, n: 0 }
  }

  add(rung: number, held: number, load: number, reading: number): void {
    if (rung !== this.sums.rung) this.begin(rung)
    if (held < SETTLING || !Number.isFinite(load) || !Number.isFinite(reading)) return
    this.sums.load += load
    this.sums.reading += reading
    this.sums.n++
  }

  /** Another rung is held; one that was held before counts anew. */
  private begin(rung: number): void {
    const last = this.means.filter(m => m.rung !== rung)
    this.before.splice(0, Infinity, ...last)
    this.sums = { rung, load: 0, reading: 0, n: 0 }
  }
}

/** Means of every channel over the holds, once each has settled. */
export class RungMeans {
  private readonly sums = new Map<number, Record<string, { sum: number; n: number }>>()

  add(
    rung: number,
    held: number,
    channels: Readonly<Record<string, readonly number[]>>,
    zeroOf: (role: string) => number,
  ): void {
    if (held < SETTLING) return
    const sums = this.sums.get(rung) ?? {}
    this.sums.set(rung, sums)
    for (const [role, values] of Object.entries(channels)) {
      const s = (sums[role] ??= { sum: 0, n: 0 })
      const zero = zeroOf(role)
      for (const v of values)
        if (Number.isFinite(v)) {
          s.sum += v - zero
          s.n++
        }
    }
  }

  forget(rung: number): void {
    this.sums.delete(rung)
  }

  get points(): { rung: number; means: Record<string, number> }[] {
    return [...this.sums].map(([rung, sums]) => ({
      rung,
      means: Object.fromEntries(
        Object.entries(sums)
          .filter(([, s]) => s.n > 0)
          .map(([role, s]) => [role, Number((s.sum / s.n).toPrecision(7))]),
      ),
    }))
  }
}

/**
 * The reading at a load to come. From the holds so far by a straight line with its prediction band, as soon as there
 * are
 * four; until then from the calculation, drawn through the newest hold, with its own band.
 *
 * @param expected  reading a unit of load by the calculation, and its band as a share
 * @param U  expanded uncertainty of a single reading
 */
export function project(
  holds: readonly HoldMean[],
  at: number,
  expected: { slope: number; band: number },
  U: number | null,
): Projection {
  const loaded = holds.filter((h, i) => h.load !== 0 || i === 0)
  const newest = loaded.slice(-NEWEST)
  const spread = new Set(newest.map(h => Math.round(h.load / (Math.abs(at) || 1) / 0.02))).size
  if (newest.length >= FEWEST && spread >= FEWEST - 1) {
    const { value, half } = predictionBand(
      newest.map(h => h.load),
      newest.map(h => h.reading),
    )(at)
    return { value, half: Math.hypot(half, U ?? 0), from: 'readings' }
  }
  const last = loaded.findLast(h => Math.abs(h.load) > 0.05 * Math.abs(at))
  const slope = last ? last.reading / last.load : expected.slope
  return { value: slope * at, half: Math.hypot(expected.band * Math.abs(slope * at), U ?? 0), from: 'calculation' }
}
