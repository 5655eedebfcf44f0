import '@hypomet/core/fixtures/near'
import {
  LiveDerived,
  preferenceOf,
  setPointsOf,
  simulatedRigOf,
  siUnit,
  viewPlanOf,
  type Fault,
  type Kind,
  type LiveFigure,
  type SimulatedRig,
  type StoredRecord,
  type ViewedPlan,
} from '@hypomet/core'
import { vi } from 'vitest'
import type { Batch, Recorder } from '../db/records/recorder'
import type { LiveEvent } from '../db/schema'
import type { Arrival, Driver } from '../live/drivers/driver'
import { LadderFollower } from '../live/drivers/follower'
import { SimulatedDriver } from '../live/drivers/simulated'
import type { LiveFrame } from '../live/frame'
import { LiveRun } from '../live/run'

/** A whole run in a clock of its own: what it recorded, said and showed. */
export interface Played {
  viewed: ViewedPlan
  record: StoredRecord
  events: LiveEvent[]
  /** As the console showed them last while something was on. */
  figures: Record<string, LiveFigure>
  stands: string[]
  aheads: NonNullable<NonNullable<NonNullable<LiveFrame['now']>['kind']>['ahead']>[]
  health: string[]
  end: number
}

export interface Asked {
  family: string
  plan: object
  properties?: object
  seed?: number
  truth?: object
  faults?: Fault[]
  watch?: object[]
  /** s after which nobody waits any more. */
  within?: number
  /** By a logger's line, which reads what channels read and knows nothing of set-points. */
  byStream?: boolean
  /** How much faster than the clock: what comes at one look may span a rung. */
  pace?: number
}

/** Timers that `LiveRun` goes by, for a clock that is moved by hand. */
export const CLOCK = {
  toFake: ['performance', 'setInterval', 'clearInterval', 'setTimeout', 'clearTimeout', 'Date'] as const,
}

export async function played({
  family,
  plan,
  properties = {},
  seed = 5,
  truth,
  faults = [],
  watch = [],
  within = 240,
  byStream = false,
  pace = 1,
}: Asked): Promise<Played> {
  vi.useFakeTimers({ toFake: [...CLOCK.toFake] })
  try {
    const viewed = viewPlanOf(family, { ...plan, watch }, properties, {})
    const drawn = truth ? { truth: truthOf(family, viewed, properties, seed, truth) } : {}
    const rig = simulatedRigOf(family, viewed, properties, { seed, ...drawn })
    const kept = new Kept()
    const driver = byStream
      ? new Relayed(rig, viewed, seed)
      : new SimulatedDriver(rig, viewed.plan.rate, rig.start(seed, faults), new LiveDerived(viewed.plan.channels, {}))
    const set = setPointsOf(viewed.plan).map(s => s.role)
    const kinds = [...viewed.view.channels, ...setPointsOf(viewed.plan), viewed.view.commanded]
    const units = Object.fromEntries(kinds.map(c => [c.role, siUnit(c.kind as Kind)]))
    const groups = rig.groups.map((g, i) => ({
      datasetId: i,
      channelIds: [],
      stored: 0,
      roles: [...new Set([...g.readers.map(r => r.role), ...(i === 0 ? set : [])])],
    }))
    const shown: Played = {
      viewed,
      record: kept.record(family, [], {}),
      events: [],
      figures: {},
      stands: [],
      aheads: [],
      health: [],
      end: NaN,
    }
    const run = new LiveRun({
      runId: 1,
      testId: 1,
      title: family,
      family,
      plan: viewed.plan,
      view: viewed.view,
      pace,
      begin: 0,
      controls: 'nobody',
      groups,
      own: [],
      ownLimits: [],
      driver,
      prefer: preferenceOf({ system: 'metric', units: [] } as never),
      recorder: kept,
      ended: async what => {
        shown.end = what.t
        await Promise.resolve()
      },
    })
    run.join({ who: 'nobody', roles: [], send: f => look(shown, f) })
    run.start()
    for (let s = 0; s < within && Number.isNaN(shown.end); s++) await vi.advanceTimersByTimeAsync(1000)
    await run.stop()
    return { ...shown, record: kept.record(family, groups[0]!.roles, units), end: shown.end || driver.state.t }
  } finally {
    vi.useRealTimers()
  }
}

function truthOf(family: string, viewed: ViewedPlan, properties: object, seed: number, truth: object): object {
  const rig = simulatedRigOf(family, viewed, properties, { seed }) as unknown as { truth: object }
  return { ...rig.truth, ...truth }
}

function look(shown: Played, { events, now, state }: LiveFrame): void {
  shown.events.push(...events)
  if (!now) return
  const { kind } = now
  shown.health.push(...Object.values(now.health).flat())
  if (!kind) return
  const isLoaded = !shown.viewed.view.rungs[state.rung]!.isZero
  if (isLoaded && state.phase !== 'unloading' && state.phase !== 'ended')
    for (const f of kind.figures) if (f.value !== null) shown.figures[f.key] = f
  if (kind.stands !== shown.stands.at(-1)) shown.stands.push(kind.stands)
  if (kind.ahead) shown.aheads.push(kind.ahead)
}

/** A recorder that keeps what it is given. */
class Kept implements Recorder {
  private readonly columns: number[][] = []

  store({ blocks }: Batch): Promise<void> {
    for (const b of blocks)
      if (b.datasetId === 0) b.columns.forEach((c, i) => c.forEach(v => (this.columns[i] ??= []).push(v)))
    return Promise.resolve()
  }

  close(): Promise<void> {
    return Promise.resolve()
  }

  record(name: string, roles: readonly string[], units: Record<string, string>): StoredRecord {
    const columns = Object.fromEntries(['t', ...roles].map((r, i) => [r, Float64Array.from(this.columns[i] ?? [])]))
    return { columns, units, labels: {}, hasClock: true, name }
  }
}

/** A rig whose samples come over a line: set-points stay with it, and people say when they are reached. */
class Relayed implements Driver {
  readonly isThere = true
  readonly follower: LadderFollower
  private readonly rig: SimulatedDriver
  private readonly set: ReadonlySet<string>

  constructor(rig: SimulatedRig, { plan, view }: ViewedPlan, seed: number) {
    this.rig = new SimulatedDriver(rig, plan.rate, rig.start(seed, []), new LiveDerived([], {}))
    this.set = new Set(setPointsOf(plan).map(s => s.role))
    this.follower = new LadderFollower(plan.rungs, view.commanded.role, view.maxTarget, null)
  }

  start(): void {}
  stop(): void {}

  get state() {
    return this.follower.state
  }

  command(...said: Parameters<Driver['command']>): void {
    this.follower.command(...said)
    this.rig.command(...said)
  }

  poll(elapsed: number): Arrival {
    const { blocks, said, arrived } = this.rig.poll(elapsed)
    const sent = blocks.map(b => ({
      ...b,
      channels: Object.fromEntries(Object.entries(b.channels).filter(([role]) => !this.set.has(role))),
    }))
    if (this.rig.state.phase === 'hold' && this.state.phase === 'ramp') this.follower.command('reached')
    for (const b of sent) if ((b.group ?? 0) === 0) this.follower.feed(b)
    return { blocks: sent, said, arrived }
  }
}
