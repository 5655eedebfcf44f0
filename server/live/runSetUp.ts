import {
  LiveDerived,
  LiveOwn,
  simulatedRigOf,
  type DeclaredOwn,
  type Fault,
  type OwnLimit,
  type Plan,
  type PlanView,
  type RigOptions,
  type RigState,
  type SimulatedRig,
  type SimulatedState,
  type UnitPreference,
} from '@hypomet/core'
import type { RunGroup } from '../db/tests/runs'
import type { LiveEvent, StreamSetUp } from '../db/schema'
import { CrewDriver } from './drivers/crew'
import type { Driver } from './drivers/driver'
import { LadderFollower } from './drivers/follower'
import { SimulatedDriver } from './drivers/simulated'
import { sourceOf, StreamDriver } from './drivers/stream'
import { layoutOf } from './streamSetUp'

/** What stands in for a rig: an article of a family, with what is predicted of it. */
export interface SimulatedSetUp extends Pick<RigOptions, 'seed' | 'predicted'> {
  kind: 'rig'
  family: string
  properties: unknown
}

/** Where samples come from, as it goes from process to process. */
export type DriverSetUp =
  | (SimulatedSetUp & { state: SimulatedState | null; faults: Fault[] })
  | { kind: 'stream'; setUp: StreamSetUp; state: RigState | null }
  /** Readings so far, by role, SI. */
  | { kind: 'crew'; readings: Record<string, number>; state: RigState | null }

/** All that a run begins with, or goes on with: plain data, worked out where the database is. */
export interface RunSetUp {
  runId: number
  testId: number
  /** Of the test, as people call it. */
  title: string
  /** Kind of test. */
  family: string
  plan: Plan
  view: PlanView
  pace: number
  prefer: UnitPreference
  /** s on the run's clock when it is taken up. */
  begin: number
  controls: string
  isRehearsal: boolean
  groups: RunGroup[]
  /** Results that the article has of its own, and the limits on them. */
  own: DeclaredOwn[]
  ownLimits: OwnLimit[]
  driver: DriverSetUp
  /** What was recorded of it before: all channels on the first rung, the guides, and what happened. */
  before: {
    zero: Record<string, Float64Array>
    guides: Record<string, Float64Array>
    events: LiveEvent[]
  } | null
}

type Viewed = Pick<RunSetUp, 'plan' | 'view'>

const rigOf = (viewed: Viewed, { family, properties, seed, predicted }: Omit<SimulatedSetUp, 'kind'>): SimulatedRig =>
  simulatedRigOf(family, viewed, properties, { seed, ...(predicted ? { predicted } : {}) })

/** Rates and channels of a simulated rig, as they are recorded. */
export const simulatedGroups = (
  viewed: Viewed,
  rig: Omit<SimulatedSetUp, 'kind'>,
): { rate: number; roles: string[] }[] =>
  rigOf(viewed, rig).groups.map(g => ({ rate: g.rate, roles: g.readers.map(r => r.role) }))

/** Where a simulated rig begins. */
export const simulatedStart = (viewed: Viewed, rig: Omit<SimulatedSetUp, 'kind'>, faults: Fault[]): SimulatedState =>
  rigOf(viewed, rig).start(rig.seed, faults)

export function driverOf({ plan, view, driver, own }: Pick<RunSetUp, 'plan' | 'view' | 'driver' | 'own'>): Driver {
  const derived = new LiveDerived(
    [...plan.channels, ...LiveOwn.readings(own)],
    Object.fromEntries(view.channels.flatMap(c => (c.expression === null ? [[c.role, c.rate]] : []))),
  )
  if (driver.kind === 'rig') {
    const rig = rigOf({ plan, view }, driver)
    return new SimulatedDriver(rig, plan.rate, driver.state ?? rig.start(driver.seed, driver.faults), derived)
  }
  const follower = new LadderFollower(plan.rungs, view.commanded.role, view.maxTarget, driver.state)
  // Nobody knows what went on meanwhile: the ladder stands until somebody has looked.
  if (driver.state) follower.command('hold')
  return driver.kind === 'stream'
    ? new StreamDriver(sourceOf(driver.setUp.where), layoutOf(driver.setUp, plan, []), follower, derived)
    : new CrewDriver(follower, view.commanded.role, driver.readings, derived)
}
