import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { fitLine } from '../statistics/line'

/** A running estimate of the load at which an article would lose its stability, from its growth so far. */
export interface OnsetEstimate {
  critical: number
  /** Half width of the 95 % band. */
  half: number
  /** Points behind it. */
  n: number
}

/** One point for each hundredth of the highest rung, while the load rises. */
const BINS = 100
const FEWEST = 6
/** Readings at small loads say little of growth over load: only those above this share of the largest so far count. */
const FROM = 0.4
/** A slope whose band is wider than this share of it is none. */
const WIDEST_BAND = 0.5

/**
 * Growth against growth over load, as the load rises: near an instability δ = Pc·(δ/P) − δ₀, so that the slope
 * estimates
 * the critical load Pc long before it is reached.
 *
 * @source Southwell (1932), On the analysis of experimental observations in problems of elastic stability
 */
export class OnsetEstimator {
  readonly growth: number[] = []
  readonly overLoad: number[] = []
  private readonly loads: number[] = []
  private bin = -1
  private sums = { load: 0, reading: 0, n: 0 }
  private known: OnsetEstimate | null = null

  constructor(private readonly maxTarget: number) {}

  /** One sample, both less their zero; says whether there is a new point. */
  add(load: number, reading: number): boolean {
    const bin = Math.floor((load / this.maxTarget) * BINS)
    if (bin < this.bin || bin < 1) return false
    const isNew = bin > this.bin && this.sums.n > 0
    if (isNew) this.close()
    if (bin > this.bin) this.sums = { load: 0, reading: 0, n: 0 }
    this.bin = bin
    this.sums.load += load
    this.sums.reading += reading
    this.sums.n++
    return isNew
  }

  get estimate(): OnsetEstimate | null {
    return this.known
  }

  private close(): void {
    const load = this.sums.load / this.sums.n
    const growth = this.sums.reading / this.sums.n
    this.loads.push(load)
    this.growth.push(growth)
    this.overLoad.push(growth / load)
    const from = this.loads.findIndex(l => l >= FROM * load)
    const [x, y] = [this.overLoad.slice(from), this.growth.slice(from)]
    this.known = null
    if (x.length < FEWEST) return
    const { slope, slopeError } = fitLine(x, y)
    const half = tQuantile(0.975, x.length - 2) * slopeError
    if (slope > 0 && half < WIDEST_BAND * slope) this.known = { critical: slope, half, n: x.length }
  }
}
