import {
  hasZero,
  HoldMeans,
  LiveHealth,
  nextLoading,
  OnsetEstimator,
  project,
  RungMeans,
  type Kind,
  type LiveFlag,
  type Plan,
  type PlanView,
  type RigBlock,
  type RigState,
  type Tare,
  type Watcher,
} from '@hypomet/core'
import type { LiveNow } from './frame'

const BAND = 0.1
/** From so many seconds on a reading has an age. */
const STALE = 1
const MOST_POINTS = 2000
const MOST_COLUMNS = 24

/**
 * What the console reads off a run: zeros, newest readings, means of the holds, where they lead, and how the channels
 * are.
 */
export class Readout {
  /** Thinned samples since the beginning, for a console that comes late. */
  readonly heard = { t: [] as number[], commanded: [] as number[], read: [] as number[] }
  readonly latest: Record<string, number> = {}
  private readonly holds = new HoldMeans()
  /** Of all channels, where there are few enough to be read as a table. */
  private readonly rungs: RungMeans | null
  private readonly health: LiveHealth
  private readonly onset: OnsetEstimator
  private readonly band: number
  private readonly U: number | null
  private readonly kinds: Map<string, Kind>
  /** Channels that are read or derived, and what is set. */
  private readonly roles: string[]
  private every = 1
  private skipped = 0
  private lastRead = NaN
  /** When a channel last gave a number, ms of this process's clock. */
  private readonly read = new Map<string, number>()

  constructor(
    private readonly plan: Plan,
    private readonly view: PlanView,
    private readonly isByHand: boolean,
    private readonly tare: Pick<Tare, 'zeroOf'>,
    /** What its kind of test reads shakes by itself. */
    private readonly isLively = false,
    /** Nothing that it reads has a zero. */
    private readonly isAbsolute = false,
  ) {
    const read = view.channels.filter(c => c.expression === null)
    const by = <V>(of: (c: (typeof read)[number]) => V) => Object.fromEntries(read.map(c => [c.role, of(c)]))
    this.roles = [...new Set([...view.channels.map(c => c.role), view.commanded.role])]
    this.kinds = new Map(plan.channels.map(c => [c.role, c.kind]))
    this.health = new LiveHealth({ labels: by(c => c.label), peaks: by(c => c.expectedPeak), rates: by(c => c.rate) })
    this.onset = new OnsetEstimator(view.maxTarget)
    this.rungs = view.channels.length <= MOST_COLUMNS ? new RungMeans() : null
    // The calculation's own band, where it has one.
    const said = view.predictions.find(p => p.value !== 0)
    this.band = said ? (2 * said.u) / Math.abs(said.value) : BAND
    this.U = read.find(c => c.role === view.read.role)?.U ?? null
  }

  zeroOf(role: string): number {
    // What is set is no reading.
    if (this.isAbsolute || !this.kinds.has(role)) return 0
    return hasZero(this.kinds.get(role)) ? this.tare.zeroOf(role) : 0
  }

  lastOf(role: string): number | null {
    return this.latest[role] ?? null
  }

  /** Samples, with the rung and phase that they were read on; what is wrong with them comes back. */
  feed(block: RigBlock, before: Pick<RigState, 'rung' | 'phase'>, now: RigState): LiveFlag[] {
    const isZero = before.rung === 0 && now.rung === 0
    for (const [role, values] of Object.entries(block.channels)) {
      const good = values.findLast(Number.isFinite)
      if (good === undefined) continue
      this.latest[role] = good
      this.read.set(role, performance.now())
    }
    const isHeld = now.phase === 'hold' || now.phase === 'waiting' || now.phase === 'paused'
    if (isHeld && before.rung === now.rung && now.rung > 0)
      this.rungs?.add(now.rung, now.elapsed, block.channels, role => this.zeroOf(role))
    this.follow(block, before, now)
    if (this.isByHand) return []
    return this.health.feed(block, {
      isZero,
      quiet: this.isLively || now.phase === 'unloading' || now.phase === 'ended' || isLower(this.plan, now),
      isMoved: now.phase === 'ramp' || before.phase === 'ramp',
    })
  }

  /** Thins what is read against what is commanded, and gathers means and growth. */
  private follow(block: RigBlock, before: Pick<RigState, 'rung'>, now: RigState): void {
    const loads = block.channels[this.view.commanded.role]
    if (!loads) return void (this.lastRead = block.channels[this.view.read.role]?.at(-1) ?? this.lastRead)
    const reads = block.channels[this.view.read.role]
    const [zeroLoad, zeroRead] = [this.zeroOf(this.view.commanded.role), this.zeroOf(this.view.read.role)]
    const isHeld = now.phase === 'hold' || now.phase === 'waiting' || now.phase === 'paused'
    for (let k = 0; k < block.t.length; k++) {
      const [load, read] = [loads[k]!, reads?.[k] ?? this.lastRead]
      if (isHeld && before.rung === now.rung) this.holds.add(now.rung, now.elapsed, load - zeroLoad, read - zeroRead)
      if (now.phase === 'ramp') this.onset.add(load - zeroLoad, read - zeroRead)
      if (++this.skipped < this.every || !Number.isFinite(load) || !Number.isFinite(read)) continue
      this.skipped = 0
      this.heard.t.push(block.t[k]!)
      this.heard.commanded.push(load)
      this.heard.read.push(read)
    }
    if (this.heard.t.length > 2 * MOST_POINTS) {
      this.every *= 2
      for (const key of ['t', 'commanded', 'read'] as const)
        this.heard[key] = this.heard[key].filter((_, i) => i % 2 === 0)
    }
  }

  /**
   * What was recorded before this process: zeros from the first rung, the guides thinned, and the means that were
   * reached.
   */
  prime(
    zero: RigBlock,
    guides: Record<string, Float64Array>,
    reached: readonly { rung: number; value: number; reading: number }[],
  ): void {
    const { t = new Float64Array() } = guides
    this.every = Math.max(1, Math.ceil(t.length / MOST_POINTS))
    const thin = (values: Float64Array | undefined) =>
      Array.from(
        t.filter((_, i) => i % this.every === 0),
        (_, i) => values?.[i * this.every] ?? 0,
      )
    Object.assign(this.heard, {
      t: thin(t),
      commanded: thin(guides[this.view.commanded.role]),
      read: thin(guides[this.view.read.role]),
    })
    for (const [role, values] of Object.entries(guides))
      if (role !== 't' && values.length > 0) this.latest[role] = values.at(-1)!
    if (zero.t.length > 0) this.holds.add(0, Infinity, 0, 0)
    for (const r of reached)
      this.holds.add(
        r.rung,
        Infinity,
        r.value - this.zeroOf(this.view.commanded.role),
        r.reading - this.zeroOf(this.view.read.role),
      )
  }

  /** What was read on a rung counts anew: something of it was written down wrong. */
  forget(rung: number | null): void {
    if (rung === null) return
    this.holds.forget(rung)
    this.rungs?.forget(rung)
  }

  /** s since a channel last gave a number; null before its first. */
  ageOf(role: string): number | null {
    const at = this.read.get(role)
    return at === undefined ? null : (performance.now() - at) / 1000
  }

  now(
    state: RigState,
    watcher: Watcher,
  ): Omit<LiveNow, 'kind' | 'own' | 'tared' | 'controller' | 'watching' | 'recorder' | 'latency' | 'source'> {
    const { view } = this
    const finite = (v: number | undefined) => (v === undefined || !Number.isFinite(v) ? null : Number(v.toPrecision(7)))
    const at = (load: number) =>
      view.maxTarget > 0 && view.expectedSlope !== 0
        ? project(this.holds.means, load, { slope: view.expectedSlope, band: this.band }, this.U)
        : null
    const next = nextLoading(view.rungs, state.rung, state.phase === 'ramp')
    const estimates = watcher.estimates()
    const watched = estimates.find(e => e.onset !== null)
    return {
      latest: Object.fromEntries(
        this.roles.map(role => [
          role,
          finite(this.latest[role] === undefined ? undefined : this.latest[role]! - this.zeroOf(role)),
        ]),
      ),
      // Of those that have an age: a number that is older than it looks is worse than none.
      ages: Object.fromEntries(
        view.channels.flatMap(c => {
          const age = this.ageOf(c.role)
          return age !== null && age >= STALE ? [[c.role, Number(age.toFixed(1))]] : []
        }),
      ),
      zeros: { [view.commanded.role]: this.zeroOf(view.commanded.role), [view.read.role]: this.zeroOf(view.read.role) },
      health: this.health.flags(),
      holds: this.holds.means,
      points: this.rungs?.points ?? [],
      next: next ? at(next.target) : null,
      design: at(view.designTarget),
      onset: {
        role: watched?.role ?? view.read.role,
        growth: this.onset.growth,
        overLoad: this.onset.overLoad,
        estimate: watched?.onset ?? this.onset.estimate,
      },
      approaches: estimates.flatMap(e => (e.approach ? [{ role: e.role, ...e.approach }] : [])),
    }
  }
}

/** The rung that is gone to lies below the one before it. */
export const isLower = ({ rungs }: Plan, { rung }: Pick<RigState, 'rung'>): boolean =>
  rung > 0 && rungs[rung]!.target < rungs[rung - 1]!.target
