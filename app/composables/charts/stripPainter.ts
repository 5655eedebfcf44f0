import type { StripRing } from './stripRing'

export interface StripBox {
  /** Places of its channels in the ring: one, or a pair that ought to agree. */
  series: number[]
  x: number
  y: number
  width: number
  height: number
}

interface Scale {
  low: number
  high: number
}

export interface StripInk {
  ground: string
  line: string
  series: string[]
}

/** A gap that runs before the pen, px, so that old and new are told apart. */
const GAP = 8
/** Share of the window that is drawn: what is older lies where the pen is now. */
const KEPT = 0.985

/**
 * Draws strips as a pen that sweeps from left to right over a window of time and begins again: each frame costs a few
 * pixels a strip, however many there are. Only a strip whose scale must change is drawn anew.
 */
export class StripPainter {
  private readonly scales = new Map<StripBox, Scale>()
  private drawn = 0

  constructor(
    private readonly g: CanvasRenderingContext2D,
    private readonly ring: StripRing,
    private boxes: readonly StripBox[],
    private readonly window: number,
    private readonly ink: StripInk,
  ) {}

  /** Everything anew. */
  all(): void {
    this.scales.clear()
    for (const box of this.boxes) this.whole(box)
    this.drawn = this.ring.count
  }

  /** What has come since. */
  more(): void {
    const { ring } = this
    if (ring.count < this.drawn || ring.count - this.drawn > ring.length / 2) return this.all()
    for (const box of this.boxes) {
      if (!this.fits(box)) this.whole(box)
      else for (let n = this.drawn; n < ring.count; n++) this.piece(box, n, true)
    }
    this.drawn = ring.count
  }

  scaleOf(box: StripBox): Scale | undefined {
    return this.scales.get(box)
  }

  private first(): number {
    const { ring } = this
    const newest = ring.t[(ring.count - 1) % ring.length]!
    let n = Math.max(0, ring.count - ring.length + 1)
    while (n < ring.count - 1 && ring.t[n % ring.length]! < newest - KEPT * this.window) n++
    return n
  }

  private fits(box: StripBox): boolean {
    const scale = this.scales.get(box)
    if (!scale) return false
    for (let n = this.drawn; n < this.ring.count; n++)
      for (const s of box.series) {
        const [lo, hi] = [this.ring.lo[s]![n % this.ring.length]!, this.ring.hi[s]![n % this.ring.length]!]
        if (lo < scale.low || hi > scale.high) return false
      }
    return true
  }

  private whole(box: StripBox): void {
    const { ring, g, ink } = this
    g.fillStyle = ink.ground
    g.fillRect(box.x, box.y, box.width, box.height)
    if (ring.count === 0) return
    const from = this.first()
    let [low, high] = [Infinity, -Infinity]
    for (let n = from; n < ring.count; n++)
      for (const s of box.series) {
        low = Math.min(low, nanTo(ring.lo[s]![n % ring.length]!, Infinity))
        high = Math.max(high, nanTo(ring.hi[s]![n % ring.length]!, -Infinity))
      }
    if (low > high) [low, high] = [0, 1]
    // Room to grow into, so that a rising reading is not drawn anew at every frame.
    const room = (high - low) * 0.25 || Math.abs(high) * 0.05 || 1e-9
    this.scales.set(box, { low: low - room, high: high + room })
    for (let n = from; n < ring.count; n++) this.piece(box, n, false)
  }

  private piece(box: StripBox, n: number, clear: boolean): void {
    const { ring, g, ink, window } = this
    const { low, high } = this.scales.get(box)!
    const at = (t: number) => box.x + ((t % window) / window) * box.width
    const t = ring.t[n % ring.length]!
    const x = at(t)
    const before = n > 0 && n > ring.count - ring.length ? at(ring.t[(n - 1) % ring.length]!) : x
    const from = before <= x ? before : box.x
    if (clear) {
      g.fillStyle = ink.ground
      g.fillRect(from + 1, box.y, x - from + GAP, box.height)
    }
    const y = (v: number) => box.y + box.height - ((v - low) / (high - low)) * box.height
    box.series.forEach((s, k) => {
      const [lo, hi] = [ring.lo[s]![n % ring.length]!, ring.hi[s]![n % ring.length]!]
      if (Number.isNaN(lo)) return
      g.fillStyle = ink.series[k % ink.series.length]!
      const [top, bottom] = [y(hi), y(lo)]
      g.fillRect(from, top - 0.7, Math.max(1.2, x - from + 0.3), Math.max(1.4, bottom - top + 1.4))
      // Joined to the piece before, where it lies above or below.
      if (before > x || n === 0) return
      const [lastLo, lastHi] = [ring.lo[s]![(n - 1) % ring.length]!, ring.hi[s]![(n - 1) % ring.length]!]
      if (lastLo > hi) g.fillRect(from, y(lastLo), 1.2, top - y(lastLo))
      else if (lastHi < lo) g.fillRect(from, bottom, 1.2, y(lastHi) - bottom)
    })
  }
}

const nanTo = (v: number, otherwise: number): number => (Number.isNaN(v) ? otherwise : v)
