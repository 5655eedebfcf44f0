import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { isHypometError } from '../error'
import { fitNonlinear } from '../statistics/levenbergMarquardt'

/** Where an exponential approach is heading. */
export interface ApproachEstimate {
  steady: number
  /** Half width of the 95 % band of the steady value. */
  half: number
  /** s */
  timeConstant: number
}

const POINTS = 40
const FEWEST = 12
/** A band wider than what has been travelled so far says nothing. */
const WIDEST_BAND = 1

/**
 * Follows a reading that approaches a steady value: T∞ + (T₀ − T∞)·exp(−t/τ), fitted anew at each of some forty points,
 * which lie farther apart as the approach goes on.
 */
export class ApproachEstimator {
  private t: number[] = []
  private y: number[] = []
  private every = 1
  private sums = { t: 0, y: 0, n: 0, since: NaN }
  private known: ApproachEstimate | null = null

  restart(): void {
    this.t = []
    this.y = []
    this.every = 1
    this.sums = { t: 0, y: 0, n: 0, since: NaN }
    this.known = null
  }

  add(t: number, y: number): void {
    if (Number.isNaN(this.sums.since)) this.sums.since = t
    if (t - this.sums.since >= this.every) {
      this.t.push(this.sums.t / this.sums.n)
      this.y.push(this.sums.y / this.sums.n)
      this.sums = { t: 0, y: 0, n: 0, since: t }
      if (this.t.length > POINTS) this.halve()
      this.known = this.fitted()
    }
    this.sums.t += t
    this.sums.y += y
    this.sums.n++
  }

  get estimate(): ApproachEstimate | null {
    return this.known
  }

  /** Every two points become one. */
  private halve(): void {
    const pairs = (v: number[]) => Array.from({ length: v.length >> 1 }, (_, i) => (v[2 * i]! + v[2 * i + 1]!) / 2)
    this.t = pairs(this.t)
    this.y = pairs(this.y)
    this.every *= 2
  }

  private fitted(): ApproachEstimate | null {
    const n = this.t.length
    if (n < FEWEST) return null
    const [t0, first, last] = [this.t[0]!, this.y[0]!, this.y[n - 1]!]
    const x = this.t.map(t => t - t0)
    const travelled = Math.abs(last - first)
    if (!(travelled > 0)) return null
    const span = x[n - 1]!
    try {
      const fit = fitNonlinear({
        parameters: [
          { name: 'steady', start: last + (last - first) / 2 },
          { name: 'start', start: first },
          { name: 'tau', start: span / 2, lower: span / 100, upper: 20 * span },
        ],
        residuals: p => Float64Array.from(x, (t, i) => this.y[i]! - (p[0]! + (p[1]! - p[0]!) * Math.exp(-t / p[2]!))),
        slopes: p => {
          const e = Float64Array.from(x, t => Math.exp(-t / p[2]!))
          return [e.map(v => 1 - v), e, Float64Array.from(x, (t, i) => (p[1]! - p[0]!) * e[i]! * (t / p[2]! ** 2))]
        },
      })
      const half = tQuantile(0.975, n - 3) * fit.errors[0]!
      return half < WIDEST_BAND * travelled ? { steady: fit.values[0]!, half, timeConstant: fit.values[2]! } : null
    } catch (e) {
      // Nothing curved yet: there is no approach to speak of.
      if (isHypometError(e)) return null
      throw e
    }
  }
}
