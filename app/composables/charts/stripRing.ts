import type { StripPiece } from '~/types/api'

const LENGTH = 1024

/** The newest pieces of some channels' strips; outside Vue, for it changes thirty times a second. */
export class StripRing {
  roles: string[] = []
  readonly t = new Float64Array(LENGTH)
  lo: Float32Array[] = []
  hi: Float32Array[] = []
  /** Pieces so far: the newest is at `(count − 1) % length`. */
  count = 0
  private heard: (() => void) | null = null

  readonly length = LENGTH

  /** Who is told of every piece. */
  listen(heard: (() => void) | null): void {
    this.heard = heard
  }

  of(roles: string[]): void {
    this.roles = roles
    this.lo = roles.map(() => new Float32Array(LENGTH))
    this.hi = roles.map(() => new Float32Array(LENGTH))
    this.count = 0
  }

  begin(pieces: readonly StripPiece[]): void {
    this.count = 0
    for (const p of pieces) this.add(p)
    this.heard?.()
  }

  push(piece: StripPiece): void {
    this.add(piece)
    this.heard?.()
  }

  private add({ t, lo, hi }: StripPiece): void {
    if (lo.length !== this.roles.length) return
    const at = this.count++ % LENGTH
    this.t[at] = t
    for (let i = 0; i < lo.length; i++) {
      this.lo[i]![at] = lo[i] ?? NaN
      this.hi[i]![at] = hi[i] ?? NaN
    }
  }
}
