import type { RigBlock } from '@hypomet/core'
import type { StripPiece } from './frame'

/** Frames that are remembered for a console that looks later. */
const REMEMBERED = 900

interface Piece {
  t: number
  lo: Float32Array
  hi: Float32Array
}

/** Least and most of every channel between two frames, and those of the last half minute. */
export class Strips {
  private readonly pieces: Piece[] = []
  private readonly index: Map<string, number>
  private lo: Float32Array
  private hi: Float32Array
  private t = NaN

  constructor(roles: readonly string[]) {
    this.index = new Map(roles.map((r, i) => [r, i]))
    this.lo = new Float32Array(roles.length).fill(Infinity)
    this.hi = new Float32Array(roles.length).fill(-Infinity)
  }

  feed(block: RigBlock): void {
    if (block.t.length === 0) return
    this.t = Number.isNaN(this.t) ? block.t.at(-1)! : Math.max(this.t, block.t.at(-1)!)
    for (const [role, values] of Object.entries(block.channels)) {
      const i = this.index.get(role)!
      let [lo, hi] = [this.lo[i]!, this.hi[i]!]
      for (let k = 0; k < values.length; k++) {
        const v = values[k]!
        if (v < lo) lo = v
        if (v > hi) hi = v
      }
      this.lo[i] = lo
      this.hi[i] = hi
    }
  }

  /** Closes the piece between the frame before and this one; null where nothing came. */
  take(): Piece | null {
    if (Number.isNaN(this.t)) return null
    const piece = { t: this.t, lo: this.lo, hi: this.hi }
    this.pieces.push(piece)
    if (this.pieces.length > REMEMBERED) this.pieces.shift()
    this.t = NaN
    this.lo = new Float32Array(this.index.size).fill(Infinity)
    this.hi = new Float32Array(this.index.size).fill(-Infinity)
    return piece
  }

  /** A piece as a console asked for it. */
  of(piece: Piece, roles: readonly string[]): StripPiece {
    const pick = (from: Float32Array) =>
      roles.map(r => {
        const v = from[this.index.get(r) ?? -1]
        return v === undefined || !Number.isFinite(v) ? null : Number(v.toPrecision(5))
      })
    return { t: Number(piece.t.toFixed(4)), lo: pick(piece.lo), hi: pick(piece.hi) }
  }

  history(roles: readonly string[]): StripPiece[] {
    return this.pieces.map(p => this.of(p, roles))
  }
}
