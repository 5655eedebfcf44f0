/** Times and values of the last `window` seconds, at a cost that does not grow with their number. */
export class SlidingWindow {
  private times: number[] = []
  private values: number[] = []
  private head = 0
  /** Sums about the first time held, so that late times lose no digits. */
  private origin = 0
  private sums = { t: 0, v: 0, tt: 0, tv: 0 }
  /** Candidates for the largest, oldest first, falling. */
  private peaks: { t: number; v: number }[] = []

  constructor(private readonly window: number) {}

  push(t: number, v: number): void {
    if (this.n === 0) this.clear(t)
    this.times.push(t)
    this.values.push(v)
    this.add(t, v, 1)
    while (this.peaks.length > 0 && this.peaks.at(-1)!.v <= v) this.peaks.pop()
    this.peaks.push({ t, v })
    while (this.times[this.head]! < t - this.window) {
      this.add(this.times[this.head]!, this.values[this.head]!, -1)
      this.head++
    }
    while (this.peaks[0]!.t < t - this.window) this.peaks.shift()
    if (this.head > 4096 && this.head > this.times.length / 2) this.compact()
  }

  clear(origin = 0): void {
    this.times = []
    this.values = []
    this.head = 0
    this.origin = origin
    this.sums = { t: 0, v: 0, tt: 0, tv: 0 }
    this.peaks = []
  }

  get n(): number {
    return this.times.length - this.head
  }

  get span(): number {
    return this.n === 0 ? 0 : this.times.at(-1)! - this.times[this.head]!
  }

  get max(): number {
    return this.peaks[0]?.v ?? -Infinity
  }

  get mean(): number {
    return this.sums.v / this.n
  }

  /** Least-squares slope, a second; NaN below two times. */
  get slope(): number {
    const { t, v, tt, tv } = this.sums
    const det = this.n * tt - t * t
    return det > 0 ? (this.n * tv - t * v) / det : NaN
  }

  private add(t: number, v: number, sign: 1 | -1): void {
    const x = t - this.origin
    this.sums.t += sign * x
    this.sums.v += sign * v
    this.sums.tt += sign * x * x
    this.sums.tv += sign * x * v
  }

  /** Drops what has left, and sums anew, so that rounding does not pile up. */
  private compact(): void {
    this.times = this.times.slice(this.head)
    this.values = this.values.slice(this.head)
    this.head = 0
    this.origin = this.times[0]!
    this.sums = { t: 0, v: 0, tt: 0, tv: 0 }
    this.times.forEach((t, i) => this.add(t, this.values[i]!, 1))
  }
}
