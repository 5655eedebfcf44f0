import * as z from 'zod'
import { formatNumber, formatQuantity, METRIC, sameDimension, siUnit, type Kind, type UnitPreference } from '../quantity/index'
import { KINDS } from '../quantity/kinds'
import { anyQuantity, plain, type AnyQuantity } from '../method/settings'
import type { RigBlock } from '../method/stages'
import { stop, type Finding } from './finding'
import type { PlanChannel } from './channels'

export const WATCH_KINDS = ['limit', 'rate', 'twin', 'line', 'leak', 'failure'] as const
export type WatchKind = (typeof WATCH_KINDS)[number]
export const WATCH_ACTIONS = ['warn', 'hold', 'abort'] as const
export type WatchAction = (typeof WATCH_ACTIONS)[number]

/** What is watched while the ladder is climbed, on every sample, and what then happens. */
export const watchRuleSchema = z.object({
  kind: z.enum(WATCH_KINDS).meta({ title: 'Watch' }),
  role: z.string().min(1).meta({ title: 'Channel' }),
  /** Reading; reading a second; difference of twins; share off the line; fall a second in a hold; share of the peak. */
  value: anyQuantity({ title: 'Beyond', positive: true }),
  action: z.enum(WATCH_ACTIONS).default('hold').meta({ title: 'Then' }),
  /** s that it must last. */
  lasts: plain({ title: 'For, s', min: 0, max: 600 }).default(0),
})
export const watchField = z.array(watchRuleSchema).default([]).meta({ title: 'Watch rules' })

export type WatchRule = z.output<typeof watchRuleSchema>

/** What a rule's number is: of the channel, of it a second, or a share. */
const shares: readonly WatchKind[] = ['line', 'failure']
const perSecond: readonly WatchKind[] = ['rate', 'leak']

/** Rules that cannot be: a channel that is not there, a number in another unit, twins without a twin. */
export function watchFindings(rules: readonly WatchRule[], channels: readonly PlanChannel[]): Finding[] {
  return rules.flatMap((r, i): Finding[] => {
    const c = channels.find(x => x.role === r.role && x.expression === undefined)
    if (!c) return [stop('watch-channel', `watch.${i}.role`, `There is no channel “${r.role}” to watch.`, 'Use the short name of a channel that is read.')]
    if (r.kind === 'twin' && !channels.some(x => x.role === c.twin)) return [stop('watch-twin', `watch.${i}.role`, `${c.label} has no twin to compare with.`, 'Choose its twin in the channels.')]
    return fits(r.kind, r.value, c.kind) ? [] : [stop('unit-dimension', `watch.${i}.value`, `This must be ${shares.includes(r.kind) ? 'a share' : `in ${siUnit(c.kind)}${perSecond.includes(r.kind) ? '/s' : ''}`}.`, 'Enter it in such a unit.')]
  })
}

function fits(kind: WatchKind, { dimension }: AnyQuantity, of: Kind): boolean {
  if (dimension === null) return true
  const wanted = shares.includes(kind) ? KINDS.ratio.dimension : perSecond.includes(kind) ? KINDS[of].dimension.map((n, i) => n - KINDS.time.dimension[i]!) : KINDS[of].dimension
  return sameDimension(dimension, wanted)
}

export interface Crossing {
  rule: number
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
  /** Commanded at the highest rung: the line is fitted over the middle of the way there. */
  maxTarget: number
}

interface Running {
  zeroSum: number
  zeroCount: number
  /** Recent readings for a slope, and when the rule first held without a break. */
  times: number[]
  values: number[]
  since: number | null
  /** Sums of the line of reading over commanded, from its early part. */
  n: number
  x: number
  y: number
  xx: number
  xy: number
  peak: number
}

/** Window over which a rate is taken, s. */
const SLOPE_WINDOW = 1
/** The line is fitted to this part of the way up, and looked at beyond. */
const LINE_FROM = 0.1
const LINE_TO = 0.5
/** A guide falls from its peak within this, s; a peak below this share of the highest rung is none. */
const FAILURE_WINDOW = 0.5
const FAILURE_FLOOR = 0.2

/**
 * Rules on a stream of blocks at full rate. Readings are taken from their mean over the first rung, a zero. Each rule
 * speaks once, until it is armed again.
 */
export class Watcher {
  private readonly state: Running[]
  private readonly fired = new Set<number>()
  private readonly labels: Map<string, PlanChannel>

  constructor(private readonly rules: readonly WatchRule[], channels: readonly PlanChannel[], private readonly commanded: string, private readonly prefer: UnitPreference = METRIC) {
    this.labels = new Map(channels.map(c => [c.role, c]))
    this.state = rules.map(() => ({ zeroSum: 0, zeroCount: 0, times: [], values: [], since: null, n: 0, x: 0, y: 0, xx: 0, xy: 0, peak: 0 }))
  }

  /** Lets a rule speak again. */
  arm(rule: number): void {
    this.fired.delete(rule)
    this.state[rule]!.since = null
  }

  feed(block: RigBlock, now: WatchState): Crossing[] {
    return this.rules.flatMap((r, i) => {
      const readings = this.readingsOf(r, block)
      if (!readings) return []
      const s = this.state[i]!
      if (now.rung === 0) {
        for (const v of readings) if (Number.isFinite(v)) { s.zeroSum += v; s.zeroCount++ }
        return []
      }
      const crossed = this.look(r, s, block, readings, now)
      if (crossed === null || this.fired.has(i)) return []
      this.fired.add(i)
      return [{ rule: i, role: r.role, action: r.action, t: crossed.t, note: crossed.note }]
    })
  }

  /** The channel's own samples, or its difference from its twin. */
  private readingsOf(r: WatchRule, block: RigBlock): number[] | null {
    const own = block.channels[r.role]
    if (!own || r.kind !== 'twin') return own ?? null
    const twin = block.channels[this.labels.get(r.role)?.twin ?? '']
    return twin ? own.map((v, k) => v - twin[k]!) : null
  }

  private look(r: WatchRule, s: Running, block: RigBlock, readings: readonly number[], now: WatchState): { t: number; note: string } | null {
    const zero = s.zeroCount > 0 ? s.zeroSum / s.zeroCount : 0
    const guide = block.channels[this.commanded] ?? []
    for (let k = 0; k < readings.length; k++) {
      const [t, value] = [block.t[k]!, readings[k]! - zero]
      if (!Number.isFinite(value)) continue
      const measure = this.measure(r, s, t, value, guide[k] ?? NaN, now)
      if (measure === null || !(Math.abs(measure) > r.value.si)) {
        s.since = null
        continue
      }
      s.since ??= t
      if (t - s.since >= r.lasts) return { t, note: this.words(r, measure) }
    }
    return null
  }

  private measure(r: WatchRule, s: Running, t: number, value: number, guide: number, now: WatchState): number | null {
    switch (r.kind) {
      case 'limit':
      case 'twin': return value
      case 'rate': return this.slope(s, t, value)
      case 'leak': {
        if (!now.isHold) {
          s.times = []
          s.values = []
          return null
        }
        const slope = this.slope(s, t, value)
        return slope === null ? null : Math.max(0, -slope)
      }
      case 'line': return offTheLine(s, value, guide, now.maxTarget)
      case 'failure': {
        s.times.push(t)
        s.values.push(value)
        while (s.times[0]! < t - FAILURE_WINDOW) {
          s.times.shift()
          s.values.shift()
        }
        s.peak = Math.max(...s.values)
        return s.peak > FAILURE_FLOOR * now.maxTarget ? 1 - value / s.peak : null
      }
    }
  }

  /** Slope over the last second by its ends' means; null until there is one. */
  private slope(s: Running, t: number, value: number): number | null {
    s.times.push(t)
    s.values.push(value)
    while (s.times[0]! < t - SLOPE_WINDOW) {
      s.times.shift()
      s.values.shift()
    }
    const n = s.times.length
    if (t - s.times[0]! < 0.8 * SLOPE_WINDOW || n < 4) return null
    const half = Math.floor(n / 2)
    const mean = (list: readonly number[], from: number, to: number) => list.slice(from, to).reduce((a, b) => a + b, 0) / (to - from)
    return (mean(s.values, half, n) - mean(s.values, 0, half)) / (mean(s.times, half, n) - mean(s.times, 0, half))
  }

  private words(r: WatchRule, measure: number): string {
    const c = this.labels.get(r.role)
    const kind = c?.kind ?? 'ratio'
    const label = c?.label ?? r.role
    const show = (v: number) => formatQuantity(v, kind, { prefer: this.prefer, digits: 3 })
    const then = r.action === 'warn' ? '' : r.action === 'hold' ? ': ladder held' : ': unloading'
    switch (r.kind) {
      case 'limit': return `${label} reads ${show(measure)}, beyond ${show(r.value.si)}${then}`
      case 'twin': return `${label} and its twin part by ${show(Math.abs(measure))}, more than ${show(r.value.si)}${then}`
      case 'rate': return `${label} moves ${show(measure)} a second, more than ${show(r.value.si)}${then}`
      case 'leak': return `${label} falls ${show(measure)} a second in the hold, more than ${show(r.value.si)}${then}`
      case 'line': return `${label} is ${formatNumber(100 * measure, 2)} % off the line of its first half${then}`
      case 'failure': return `${label} fell by ${formatNumber(100 * measure, 2)} % of its peak${then}`
    }
  }
}

/** Share by which a reading is off the line through the early part of the way up; null while that line is being drawn. */
function offTheLine(s: Running, value: number, guide: number, maxTarget: number): number | null {
  if (!Number.isFinite(guide)) return null
  if (guide > LINE_FROM * maxTarget && guide <= LINE_TO * maxTarget && guide >= s.peak) {
    s.n++
    s.x += guide
    s.y += value
    s.xx += guide * guide
    s.xy += guide * value
  }
  s.peak = Math.max(s.peak, guide)
  const det = s.n * s.xx - s.x * s.x
  if (guide <= LINE_TO * maxTarget || s.n < 10 || !(det > 0)) return null
  const slope = (s.n * s.xy - s.x * s.y) / det
  const expected = (s.y - slope * s.x) / s.n + slope * guide
  return expected === 0 ? null : value / expected - 1
}
