import type { Kind } from '../quantity/index'
import type { PlanView } from '../plan/planView'
import type { RigBlock } from './block'
import type { LadderState } from './ladder'
import type { Piece, Trigger } from './triggerGate'

/** A number that stands large on the console of its kind, SI; null while there is none. */
export interface LiveFigure {
  key: string
  label: string
  kind: Kind
  value: number | null
  predicted: number | null
  /** Half width of its 95 % band, where it is an estimate. */
  half: number | null
  /** A few words beneath it. */
  note: string
}

/** Something that a run of a kind has come to, for its events. */
export interface LiveSaid {
  kind: string
  t: number
  note: string
  value: number | null
  reading: number | null
}

/** A curve that goes on from now, SI; null where nothing says how. */
export interface Ahead {
  role: string
  t: number[]
  y: number[]
}

export type LiveMoment = Pick<LadderState, 't' | 'rung' | 'phase' | 'elapsed'>

/** What a run of one kind is read for while it goes on. */
export interface LiveReader {
  /** Samples as they are kept, with where the ladder stands; says what they have come to. */
  feed(block: RigBlock, now: LiveMoment): LiveSaid[]
  /** A piece around a trigger is whole. */
  whole?(piece: Piece, now: LiveMoment): LiveSaid[]
  figures(now: LiveMoment): LiveFigure[]
  /** Where what is read is heading, from now on. */
  ahead?(now: LiveMoment): Ahead | null
  /** What came last, on a clock of its own: the newest drop or shot. */
  last?(): Ahead | null
  /** In words, where it stands: hanging, descending, armed. */
  stands?(now: LiveMoment): string
}

export interface LiveFrom<Plan> {
  plan: Plan
  view: PlanView
  zeroOf(role: string): number
  /** A number in the campaign's units. */
  show(si: number, kind: Kind): string
}

/** How a kind of test is read while it runs, and what it waits for. */
export interface LiveKind<Plan> {
  reader(from: LiveFrom<Plan>): LiveReader
  /** Something short that the run waits for; nothing is kept between. */
  trigger?(plan: Plan): Trigger
  /** What it reads shakes by itself: noise and jumps are no news of a gauge. */
  isLively?: true
  /** Readings count as they stand: nothing of it has a zero to take off. */
  isAbsolute?: true
  /** Its console draws what is read over time. */
  overTime?: boolean
}

/** As predicted of a result, where the plan's calculation or somebody says it. */
export const predictedOf = (view: Pick<PlanView, 'predictions'>, quantity: string): number | null =>
  view.predictions.find(p => p.quantity === quantity)?.value ?? null

/** The newest samples of some channels, the eldest left out. */
export class Recent {
  readonly t: number[] = []
  readonly channels: Record<string, number[]>

  constructor(
    readonly roles: readonly string[],
    private readonly seconds: number,
    private readonly most = Infinity,
  ) {
    this.channels = Object.fromEntries(roles.map(r => [r, []]))
  }

  /** Blocks without the first of the channels are left out. */
  feed(block: RigBlock): void {
    const first = block.channels[this.roles[0]!]
    if (!first || block.t.length === 0) return
    for (const t of block.t) this.t.push(t)
    for (const role of this.roles)
      for (let k = 0; k < block.t.length; k++) this.channels[role]!.push(block.channels[role]?.[k] ?? NaN)
    const since = this.t.at(-1)! - this.seconds
    const byTime = this.t.findIndex(t => t >= since)
    const drop = Math.max(byTime < 0 ? 0 : byTime, this.t.length - this.most)
    if (drop === 0) return
    this.t.splice(0, drop)
    for (const role of this.roles) this.channels[role]!.splice(0, drop)
  }

  /** A channel about a moment, s from that, its zero taken off: few points, no peak thinned away. */
  about(role: string, at: number, zero: number, { before = Infinity, after = Infinity } = {}): Ahead {
    const from = this.t.findIndex(t => t >= at - before)
    const to = this.t.findLastIndex(t => t <= at + after) + 1
    const t = this.t.slice(from, to).map(s => s - at)
    return thinned(
      role,
      t,
      this.channels[role]!.slice(from, to).map(v => v - zero),
    )
  }

  clear(): void {
    this.t.length = 0
    for (const role of this.roles) this.channels[role]!.length = 0
  }

  get span(): number {
    return this.t.length < 2 ? 0 : this.t.at(-1)! - this.t[0]!
  }

  /** Mean over the last so many seconds; NaN where nothing was read. */
  mean(role: string, seconds = Infinity): number {
    const from = (this.t.at(-1) ?? 0) - seconds
    let [sum, n] = [0, 0]
    this.channels[role]!.forEach((v, k) => {
      if (this.t[k]! < from || !Number.isFinite(v)) return
      sum += v
      n++
    })
    return n > 0 ? sum / n : NaN
  }
}

/** A curve of at most so many points, with the largest of what is left out: a peak is not thinned away. */
function thinned(role: string, t: readonly number[], y: readonly number[], most = 400): Ahead {
  const stride = Math.max(1, Math.ceil(t.length / most))
  const at = Array.from({ length: Math.ceil(t.length / stride) }, (_, i) => {
    let best = i * stride
    for (let k = best; k < Math.min(t.length, (i + 1) * stride); k++) if (Math.abs(y[k]!) > Math.abs(y[best]!)) best = k
    return best
  })
  return { role, t: at.map(k => t[k]!), y: at.map(k => y[k]!) }
}

/** A figure with what is usual left out; what is no number is none. */
export const figure = (
  key: string,
  label: string,
  kind: Kind,
  value: number | null | undefined,
  { predicted, half, note = '' }: { predicted?: number | null; half?: number | null; note?: string } = {},
): LiveFigure => ({
  key,
  label,
  kind,
  value: finite(value),
  predicted: finite(predicted),
  half: finite(half),
  note,
})

const finite = (v: number | null | undefined): number | null =>
  typeof v === 'number' && Number.isFinite(v) ? Number(v.toPrecision(7)) : null
