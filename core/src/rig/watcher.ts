import type { PlanChannel } from '../plan/channels'
import type { WatchAction, WatchKind, WatchRule } from '../plan/watch'
import { formatNumber, formatQuantity, METRIC, type Kind, type UnitPreference } from '../quantity/index'
import type { ApproachEstimate } from './approach'
import type { RigBlock } from './block'
import { measureOf, type Measure } from './measures'
import type { OnsetEstimate } from './onset'
import { hasZero } from './projection'
import { TwinPair } from './twinPair'

export interface Crossing {
  rule: number
  /** Channels that it is about, a blank between. */
  role: string
  action: WatchAction
  /** s on the run's clock, of the sample that crossed. */
  t: number
  note: string
}

export interface WatchState {
  /** Rung and phase while the block was read. */
  rung: number
  isHold: boolean
  /** The load is coming down: what falls then falls as it must. */
  isUnloading?: boolean
  /** What the next rung commands; null after the last. */
  next?: number | null
}

interface Running {
  measure: Measure
  /** When the rule first held without a break. */
  since: number | null
}

/** Rules of the plan beside those that every run has: no channel beyond this share of its sensor's range. */
const RANGE_SHARE = 0.95

export interface WatcherOptions {
  rules: readonly WatchRule[]
  channels: readonly PlanChannel[]
  /** Full scale of the sensors, by role. */
  ranges?: Readonly<Record<string, number>>
  commanded: string
  /** Commanded at the highest rung. */
  maxTarget: number
  prefer?: UnitPreference
  /** Hz by role: twins of different rates are compared where the slower one is read. */
  rates?: Readonly<Record<string, number>>
  /** What a channel's readings are counted from. */
  zeroOf(role: string): number
}

/** Rules that a ladder must have begun for, and that say nothing of a load that comes down. */
const OF_LOADING: readonly WatchKind[] = ['leak', 'line', 'onset', 'next-rung', 'failure']
/** Rules for which a reading beyond what can be read is beyond them. */
const OF_SIZE: readonly WatchKind[] = ['limit', 'twin']

/**
 * Rules on a stream of blocks at full rate, from the first sample. Readings count from their zero; ranges are of the
 * sensor, and count from nothing. ±∞ is a reading beyond what can be read. Each rule speaks once, until it is armed
 * again.
 */
export class Watcher {
  private readonly state: Running[]
  private readonly fired = new Set<number>()
  private readonly rangeFired = new Set<string>()
  private readonly channels: Map<string, PlanChannel>
  /** By the first of two channels. */
  private readonly twins: Map<string, TwinPair>
  /** Newest of the commanded channel, for rules on channels of another rate. */
  private guide = NaN

  constructor(private readonly o: WatcherOptions) {
    this.channels = new Map(o.channels.map(c => [c.role, c]))
    this.twins = new Map(
      o.rules.flatMap(({ kind, role }) => {
        const twin = kind === 'twin' ? this.channels.get(role)?.twin : undefined
        return twin === undefined ? [] : [[role, new TwinPair(role, twin, o.rates ?? {})] as const]
      }),
    )
    this.state = o.rules.map(r => ({ measure: measureOf(r.kind, o.maxTarget), since: null }))
  }

  /** Lets a rule speak again. */
  arm(rule: number): void {
    this.fired.delete(rule)
    this.state[rule]!.since = null
  }

  /** Running estimates of the rules that make one. */
  estimates(): { role: string; onset: OnsetEstimate | null; approach: ApproachEstimate | null }[] {
    return this.o.rules.flatMap((r, i) => {
      const { onset, approach } = this.state[i]!.measure
      return onset || approach ? [{ role: r.role, onset: onset?.() ?? null, approach: approach?.() ?? null }] : []
    })
  }

  feed(block: RigBlock, now: WatchState): Crossing[] {
    const guides = block.channels[this.o.commanded]
    for (const pair of this.twins.values()) pair.feed(block)
    const crossed = [...this.ranges(block), ...this.o.rules.flatMap((r, i) => this.rule(r, i, block, guides, now))]
    if (guides && guides.length > 0) this.guide = guides.at(-1)!
    return crossed
  }

  private rule(
    r: WatchRule,
    i: number,
    block: RigBlock,
    guides: readonly number[] | undefined,
    now: WatchState,
  ): Crossing[] {
    const { t: times, values: readings } = this.readingsOf(r, block)
    if (readings.length === 0) return []
    const s = this.state[i]!
    if (OF_LOADING.includes(r.kind) && (now.rung === 0 || now.isUnloading)) {
      s.since = null
      return []
    }
    const zero = this.zeroFor(r)
    const guideZero = this.o.zeroOf(this.o.commanded)
    for (let k = 0; k < readings.length; k++) {
      const [t, value] = [times[k]!, readings[k]! - zero]
      if (Number.isNaN(value) || (!Number.isFinite(value) && !OF_SIZE.includes(r.kind))) continue
      const measured = s.measure.look({
        t,
        value,
        guide: ((times === block.t ? guides?.[k] : undefined) ?? this.guide) - guideZero,
        isHold: now.isHold,
        maxTarget: this.o.maxTarget,
        rung: now.rung,
        next: now.next ?? null,
      })
      const holds =
        measured !== null &&
        (s.measure.fires === 'beyond' ? Math.abs(measured) > r.value.si : Math.abs(measured) <= r.value.si)
      if (!holds) {
        s.since = null
        continue
      }
      s.since ??= t
      if (t - s.since < r.lasts || this.fired.has(i)) continue
      this.fired.add(i)
      return [
        {
          rule: i,
          role: r.kind === 'twin' ? `${r.role} ${this.channels.get(r.role)?.twin}` : r.role,
          action: r.action,
          t,
          note: this.words(r, measured, s.measure),
        },
      ]
    }
    return []
  }

  /** A temperature, say, is not counted from where it began. */
  private zeroFor(r: WatchRule): number {
    const c = this.channels.get(r.role)
    if (!hasZero(c?.kind)) return 0
    return this.o.zeroOf(r.role) - (r.kind === 'twin' && c?.twin ? this.o.zeroOf(c.twin) : 0)
  }

  private ranges(block: RigBlock): Crossing[] {
    return Object.entries(this.o.ranges ?? {}).flatMap(([role, fullScale]) => {
      if (this.rangeFired.has(role)) return []
      const k = block.channels[role]?.findIndex(v => Math.abs(v) > RANGE_SHARE * fullScale) ?? -1
      if (k < 0) return []
      this.rangeFired.add(role)
      return [
        {
          rule: -1,
          role,
          action: 'hold' as const,
          t: block.t[k]!,
          note: `${this.channels.get(role)?.label ?? role} is at ${100 * RANGE_SHARE} % of its range: ladder held`,
        },
      ]
    })
  }

  /** The channel's own samples, or its difference from its twin. */
  private readingsOf(r: WatchRule, block: RigBlock): { t: readonly number[]; values: readonly number[] } {
    if (r.kind !== 'twin') return { t: block.t, values: block.channels[r.role] ?? [] }
    return this.twins.get(r.role)?.apart ?? { t: [], values: [] }
  }

  private words(r: WatchRule, measured: number, { onset, approach }: Measure): string {
    const c = this.channels.get(r.role)
    const kind = c?.kind ?? 'ratio'
    const label = c?.label ?? r.role
    const { prefer = METRIC } = this.o
    const show = (v: number, of: Kind = kind) => formatQuantity(v, of, { prefer, digits: 3 })
    const load = this.channels.get(this.o.commanded)?.kind ?? 'force'
    const then = r.action === 'warn' ? '' : r.action === 'hold' ? ': ladder held' : ': unloading'
    const steady = approach?.()
    if (!Number.isFinite(measured))
      return `${label} is beyond what can be read, and so beyond ${show(r.value.si)}${then}`
    switch (r.kind) {
      case 'limit':
        return `${label} reads ${show(measured)}, beyond ${show(r.value.si)}${then}`
      case 'twin':
        return (
          `${label} and its redundant channel disagree by ${show(Math.abs(measured))}, ` +
          `more than ${show(r.value.si)}${then}`
        )
      case 'rate':
        return `${label} moves ${show(measured)} a second, more than ${show(r.value.si)}${then}`
      case 'leak':
        return `${label} falls ${show(measured)} a second in the hold, more than ${show(r.value.si)}${then}`
      case 'line':
        return `${label} is ${formatNumber(100 * measured, 2)} % off the line of its first half${then}`
      case 'onset':
        return (
          `${label} grows towards ${show(onset!()!.critical, load)} ± ${show(onset!()!.half, load)}: ` +
          `${formatNumber(100 * measured, 2)} % of it is on${then}`
        )
      case 'steady':
        return `${label} is within ${show(measured)} of its steady ${show(steady!.steady)}${then}`
      case 'heads-for':
        return (
          `${label} is heading for ${show(steady!.steady)} ± ${show(steady!.half)}, beyond ` +
          `${show(r.value.si)}${then}`
        )
      case 'next-rung':
        return `${label} would read ${show(measured)} at the next rung, beyond ${show(r.value.si)}${then}`
      case 'failure':
        return `${label} fell by ${formatNumber(100 * measured, 2)} % of its peak${then}`
    }
  }
}
