import {
  formatQuantity,
  liveKindOf,
  TriggerGate,
  type Kind,
  type LiveReader,
  type LiveSaid,
  type Plan,
  type PlanView,
  type RigBlock,
  type RigState,
  type Trigger,
  type UnitPreference,
} from '@hypomet/core'
import type { LiveNow } from './frame'

export interface KindOfRunOptions {
  family: string
  plan: Plan
  view: PlanView
  prefer: UnitPreference
  isByHand: boolean
  zeroOf(role: string): number
  /** Into the record. */
  keep(block: RigBlock): void
  tell(said: LiveSaid): void
}

/** What of a run is its kind's own: how it is read while it goes on, and what of it is kept. */
export class KindOfRun {
  private readonly reader: LiveReader | null
  private readonly trigger: Trigger | null
  private readonly gate: TriggerGate | null
  /** Rung that something was told on last. */
  private heardOn = -1
  private isSaid = false

  constructor(private readonly o: KindOfRunOptions) {
    const { family, plan, view, zeroOf } = o
    const kind = liveKindOf(family)
    this.reader = kind?.reader({ plan, view, zeroOf, show: this.show }) ?? null
    // What people read by hand is told by them, not by a level.
    this.trigger = (o.isByHand ? undefined : kind?.trigger?.(plan)) ?? null
    this.gate = this.trigger && new TriggerGate(this.trigger, zeroOf)
  }

  /** Into the record, and to what reads this kind of test; of a triggered run only what lies around a trigger. */
  take(block: RigBlock, raw: RigBlock, state: RigState): void {
    if (!this.isSaid) this.sayArmed(state)
    // An overload is a gap in the record, and beyond any level.
    const { kept, done } = this.gate ? this.gate.feed(block, raw) : { kept: [block], done: [] }
    for (const b of kept) this.keep(b, state)
    for (const piece of done) {
      this.heardOn = state.rung
      this.reader?.whole?.(piece, state).forEach(s => this.o.tell(s))
    }
  }

  /** By what it is told, and what is kept of it: nobody need guess. */
  private sayArmed({ t }: RigState): void {
    this.isSaid = true
    if (!this.trigger) return
    const { role, level, before, after } = this.trigger
    const { label = role, kind = 'ratio' } = this.o.view.channels.find(c => c.role === role) ?? {}
    const note =
      `${label} beyond ${this.show(level, kind)} tells it; ${this.show(before, 'time')} before and ` +
      `${this.show(after, 'time')} after are kept, nothing between`
    this.o.tell({ kind: 'armed', t, note, value: null, reading: null })
  }

  private readonly show = (si: number, of: Kind): string => formatQuantity(si, of, { prefer: this.o.prefer, digits: 3 })

  private keep(block: RigBlock, state: RigState): void {
    this.o.keep(block)
    this.reader?.feed(block, state).forEach(s => this.o.tell(s))
  }

  /** A rung is left, or the run over, and no trigger was heard on it: what came last is kept all the same. */
  leave(before: RigState, state: RigState): void {
    const isLeft = state.rung !== before.rung || (state.phase === 'ended' && before.phase !== 'ended')
    if (!this.gate || !isLeft) return
    const isHeard = this.heardOn === before.rung || this.o.plan.rungs[before.rung]!.target === 0
    const { kept, done } = this.gate.giveUp(state.t, isHeard)
    kept.forEach(b => this.keep(b, state))
    const note = `nothing was told on rung ${before.rung + 1}: what was read last is kept`
    for (const piece of done)
      if (piece.isHeard) this.reader?.whole?.(piece, { ...state, rung: before.rung }).forEach(s => this.o.tell(s))
      else this.o.tell({ kind: 'trigger missed', t: state.t, note, value: null, reading: null })
  }

  now(state: RigState): LiveNow['kind'] {
    const { reader } = this
    if (!reader) return null
    return {
      figures: reader.figures(state),
      stands: reader.stands?.(state) ?? '',
      ahead: reader.ahead?.(state) ?? null,
      last: reader.last?.() ?? null,
    }
  }
}
