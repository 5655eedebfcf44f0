import type { RigBlock } from './block'

/** When a run that waits for something short keeps its samples. */
export interface Trigger {
  role: string
  /** Away from its zero, SI. */
  level: number
  /** s before and after it that are kept. */
  before: number
  after: number
}

/** What a trigger has let through, as soon as the last of it is there. */
export interface Piece {
  /** One for the first. */
  number: number
  from: number
  at: number
  to: number
  /** Whether it was told by the trigger, or is kept because nothing told. */
  isHeard: boolean
}

/** Where nothing is heard, what came last is kept all the same: so many seconds, at most so many samples a channel. */
const KEPT_UNHEARD = 10
const MOST_UNHEARD = 200_000
/** s */
const SAME_TIME = 1e-9

/**
 * Lets through what lies around each crossing of a level, and nothing between. Samples that came before a crossing wait
 * in memory; where a rung is left without one, what was held back last is let through, and said.
 */
export class TriggerGate {
  private waiting: RigBlock[] = []
  private open: { at: number; to: number } | null = null
  /** Newest time that was let through, by group. */
  private readonly passed = new Map<number, number>()
  private count = 0

  constructor(
    private readonly trigger: Trigger,
    private readonly zeroOf: (role: string) => number,
  ) {}

  /**
   * @param raw  the block as it came, its overloads no gaps
   * @returns blocks to keep, and pieces that are whole now
   */
  feed(block: RigBlock, raw: RigBlock = block): { kept: RigBlock[]; done: Piece[] } {
    if (block.t.length === 0) return { kept: [], done: [] }
    this.waiting.push(block)
    const done: Piece[] = []
    const kept: RigBlock[] = []
    for (const at of this.crossings(raw)) {
      if (this.open && at <= this.open.to) continue
      if (this.open) done.push(this.close(kept))
      this.open = { at, to: at + this.trigger.after }
    }
    if (this.open) {
      kept.push(...this.release(this.open.at - this.trigger.before, this.open.to))
      if (block.channels[this.trigger.role] && block.t.at(-1)! >= this.open.to) done.push(this.close(kept))
    }
    this.forget(block.t.at(-1)!)
    return { kept, done }
  }

  /**
   * What waits now is kept although nothing crossed the level: a rung was left, or the run is over.
   *
   * @param isHeard  something did on this rung, or nothing was to: what waits goes
   */
  giveUp(now: number, isHeard: boolean): { kept: RigBlock[]; done: Piece[] } {
    const kept: RigBlock[] = []
    if (this.open) return { done: [this.close(kept)], kept }
    if (isHeard) {
      this.waiting = []
      return { kept, done: [] }
    }
    kept.push(...this.release(now - KEPT_UNHEARD, Infinity))
    if (kept.length === 0) return { kept, done: [] }
    const first = Math.min(...kept.map(b => b.t[0]!))
    return { kept, done: [{ number: ++this.count, from: first, at: now, to: now, isHeard: false }] }
  }

  private close(kept: RigBlock[]): Piece {
    const { at, to } = this.open!
    kept.push(...this.release(at - this.trigger.before, to))
    this.open = null
    return { number: ++this.count, from: at - this.trigger.before, at, to, isHeard: true }
  }

  private crossings({ t, channels }: RigBlock): number[] {
    const values = channels[this.trigger.role]
    if (!values) return []
    const zero = this.zeroOf(this.trigger.role)
    return t.filter((_, k) => Math.abs(values[k]! - zero) >= this.trigger.level)
  }

  /** Samples from one time to another that have not been let through yet, in order. */
  private release(from: number, to: number): RigBlock[] {
    const out: RigBlock[] = []
    const left: RigBlock[] = []
    for (const block of this.waiting) {
      const passed = this.passed.get(block.group ?? 0) ?? -Infinity
      const start = block.t.findIndex(t => t >= from - SAME_TIME && t > passed)
      const end = block.t.findLastIndex(t => t <= to + SAME_TIME) + 1
      if (start >= 0 && end > start) {
        out.push(cut(block, start, end))
        this.passed.set(block.group ?? 0, block.t[end - 1]!)
      }
      if (end < block.t.length) left.push(end > 0 ? cut(block, end, block.t.length) : block)
    }
    this.waiting = left
    return out
  }

  /** What can no longer lie before a crossing goes, but for what is kept where none comes. */
  private forget(now: number): void {
    const total = this.waiting.reduce((n, b) => n + b.t.length, 0)
    let over = total - MOST_UNHEARD
    this.waiting = this.waiting.filter(b => {
      const last = b.t.at(-1)!
      if (last >= now - this.trigger.before) return true
      if (over <= 0 && last >= now - KEPT_UNHEARD) return true
      over -= b.t.length
      return false
    })
  }
}

function cut(block: RigBlock, from: number, to: number): RigBlock {
  if (from === 0 && to === block.t.length) return block
  const channels = Object.entries(block.channels).map(([role, v]) => [role, v.slice(from, to)] as const)
  return { ...block, t: block.t.slice(from, to), channels: Object.fromEntries(channels) }
}
