import {
  drawFaults,
  HypometError,
  limitsOfRevision,
  LiveDerived,
  namesIn,
  parseExpression,
  planningOf,
  setPointsOf,
  type Fault,
  type Plan,
  type PlanView,
  type RigState,
  type SimulatedState,
  type UnitPreference,
  type ViewedPlan,
} from '@hypomet/core'
import { audit } from '../db/connection/audit'
import type { Database, Db } from '../db/connection/client'
import { assertReady } from '../db/tests/readiness'
import { beginRehearsal, endRehearsal, REHEARSALS_FROM, sweepRehearsals } from '../db/tests/rehearsals'
import type { StreamSetUp } from '../db/schema'
import {
  assertNoOpenRun,
  createRun,
  eventsOfRun,
  interruptedRun,
  interruptRuns,
  keepBroke,
  openRecords,
  resumeRun,
  runGroupsOf,
  runOf,
  type RunRow,
} from '../db/tests/runs'
import { testContext } from '../db/tests/testContext'
import { TestSet } from '../db/tests/testSet'
import { viewedPlanOf } from '../db/tests/viewedPlan'
import { predictionsOf } from '../db/tests/tests'
import { recordedSoFar, StoreRecorder, type Recorder } from '../db/records/recorder'
import { assertNoRunOn, LiveRigs, type Rigs, type RunCommand, type Told } from './rigs'
import { simulatedGroups, simulatedStart, type DriverSetUp, type RunSetUp, type SimulatedSetUp } from './runSetUp'
import { layoutOf } from './streamSetUp'

export const PACES = [1, 5, 20] as const

/** Where the samples come from. A simulated rig may have faults, chosen or drawn from its seed. */
export type StartOf =
  | { source: 'rig'; pace: number; seed: number; faults?: Fault[] | 'drawn' }
  | { source: 'stream'; setUp: StreamSetUp }
  | { source: 'crew' }

/** What a test needs to be run. */
interface Prepared {
  viewed: Pick<ViewedPlan, 'plan' | 'view'>
  simulated: Pick<SimulatedSetUp, 'family' | 'properties' | 'predicted'>
  prefer: UnitPreference
  title: string
  own: Pick<RunSetUp, 'own' | 'ownLimits'>
}

/**
 * Starts, resumes and closes runs: works out in the database what each needs, and hands it to where runs go on.
 */
export class RunManager<R extends Rigs = LiveRigs> {
  private readonly rigs: R

  /**
   * @param rigs  where runs go on; in this process if left out, stored by `recorder`
   * @param closed  what follows when a run has become a record
   */
  constructor(
    private readonly database: Database,
    rigs: R | Recorder = new StoreRecorder(change => database.write(change)),
    private readonly closed: (datasetId: number) => Promise<unknown> = () => Promise.resolve(),
  ) {
    this.rigs = 'store' in rigs ? (new LiveRigs(rigs, this.told) as Rigs as R) : rigs
  }

  /** What runs have to say goes into the database. */
  get told(): Told {
    const { database } = this
    return {
      broke: (runId, seen) => database.write(db => keepBroke(db, runId, seen)),
      closed: async runId => {
        const r = await runOf(database.read, runId)
        if (r) await this.closed(r.datasetId)
      },
      rehearsed: (runId, what) => endRehearsal(database, runId - REHEARSALS_FROM, what),
    }
  }

  /** Begins a run. @throws HypometError `not-ready`, `no-plan`, `already-running`, and those of the stream's set-up */
  async start(by: string, testId: number, from: StartOf): Promise<number> {
    const runId = await this.database.write(async db => {
      await assertReady(db, testId)
      const { viewed, simulated } = await prepared(db, testId)
      if (from.source === 'stream') layoutOf(from.setUp, viewed.plan, neededOf(simulated.family, viewed))
      await assertNoOpenRun(db, testId)
      const seed = from.source === 'rig' ? from.seed : 0
      const groups =
        from.source === 'rig'
          ? simulatedGroups(viewed, { ...simulated, seed })
          : [{ rate: viewed.plan.rate, roles: rolesOf(from, viewed) }]
      const datasetId = await openRecords(db, testId, { ...viewed, source: from.source, name: nameOf(from) }, groups)
      const rigState =
        from.source === 'rig'
          ? simulatedStart(viewed, { ...simulated, seed }, faultsOf(from.faults ?? [], seed, viewed.view))
          : null
      const id = await createRun(db, by, {
        testId,
        datasetId,
        source: from.source,
        setUp: from.source === 'stream' ? from.setUp : null,
        pace: from.source === 'rig' ? from.pace : 1,
        seed,
        rigState,
      })
      await audit(db, { who: by, what: 'start run', entity: 'run', entityId: id, after: { testId, ...from } })
      return id
    })
    await this.open(runId)
    return runId
  }

  /**
   * Begins a rehearsal: the ladder on the simulated rig, with surprises. The plan need not be ready, and no record is
   * touched.
   */
  async rehearse(
    by: string,
    testId: number,
    { pace, seed, faults }: { pace: number; seed: number; faults: Fault[] | 'drawn' },
  ): Promise<number> {
    const { viewed, simulated, prefer, title, own } = await prepared(this.database.read, testId)
    assertNoRunOn(await this.rigs.going(), testId)
    const surprises = faultsOf(faults, seed, viewed.view)
    const id = await beginRehearsal(this.database, by, { testId, pace, seed, faults: surprises })
    const runId = REHEARSALS_FROM + id
    const driver: DriverSetUp = { kind: 'rig', ...simulated, seed, state: null, faults: surprises }
    const groups = simulatedGroups(viewed, { ...simulated, seed }).map(({ roles }) => ({
      datasetId: 0,
      channelIds: [],
      roles,
      stored: 0,
    }))
    const further = { begin: 0, controls: by, isRehearsal: true, before: null }
    const { family } = simulated
    await this.rigs.begin({ runId, testId, title, family, ...viewed, pace, prefer, groups, driver, ...own, ...further })
    return runId
  }

  /** Goes on with a run that its process did not survive, from the last recorded sample. */
  async resume(by: string, runId: number): Promise<void> {
    await this.database.write(db => resumeRun(db, by, runId))
    await this.open(runId)
  }

  /** Closes an interrupted run with what was recorded. */
  async close(by: string, runId: number): Promise<void> {
    const r = await interruptedRun(this.database.read, runId, 'Only an interrupted run can be closed by hand.')
    await this.rigs.close(runId, r.rigState?.end ?? null)
    await this.database.write(db => audit(db, { who: by, what: 'close run', entity: 'run', entityId: runId }))
  }

  /** @throws HypometError `not-running`, `no-controls`, `missing-name`, `missing-reason`, `not-by-hand` */
  command(runId: number, by: string, command: RunCommand): ReturnType<R['command']> {
    return this.rigs.command(runId, by, command) as ReturnType<R['command']>
  }

  /** An abort is on the disk before it is answered; false where the disk kept it waiting. */
  isOnDisk(runId: number): Promise<boolean> {
    return this.rigs.isOnDisk(runId)
  }

  /** Runs that go on now, and where they stand. */
  going(): ReturnType<R['going']> {
    return this.rigs.going() as ReturnType<R['going']>
  }

  /** Frames of a run, where it goes on in this process. @throws HypometError `not-running` */
  join(...args: Parameters<LiveRigs['join']>): ReturnType<LiveRigs['join']> {
    if (this.rigs instanceof LiveRigs) return this.rigs.join(...args)
    throw new HypometError('not-running', 'This run goes on in a process of its own.')
  }

  /** Runs whose process ended under them; those that still go on elsewhere do not count. */
  async sweep(): Promise<void> {
    const going = (await this.rigs.going()).map(g => g.runId)
    await this.database.write(async db => {
      await interruptRuns(db, going)
      await sweepRehearsals(
        db,
        going.map(id => id - REHEARSALS_FROM),
      )
    })
  }

  async stopAll(): Promise<void> {
    if (this.rigs instanceof LiveRigs) await this.rigs.stopAll()
  }

  private async open(runId: number): Promise<void> {
    const { read: db } = this.database
    const r = (await runOf(db, runId))!
    const { viewed, simulated, prefer, title, own } = await prepared(db, r.testId)
    const { commanded, read } = viewed.view
    const guides = await guidesOf(db, r.datasetId, viewed.plan, [commanded.role, read.role])
    const events = await eventsOfRun(db, runId)
    const t = guides['t']!
    const until = t.findIndex(x => x >= viewed.view.rungs[0]!.hold)
    await this.rigs.begin({
      runId,
      testId: r.testId,
      title,
      family: simulated.family,
      ...viewed,
      pace: r.pace,
      prefer,
      ...own,
      controls: r.controls,
      isRehearsal: false,
      groups: await runGroupsOf(db, r.datasetId),
      // A stand-in for a rig stood still meanwhile; a logger and a crew did not.
      begin: r.source === 'rig' ? (r.rigState?.t ?? 0) : (Date.now() - Date.parse(r.startedAt)) / 1000,
      driver: await driverSetUpOf(db, r, viewed, simulated),
      before:
        t.length === 0
          ? null
          : { zero: await recordedSoFar(db, r.datasetId, { to: until < 0 ? t.length : until }), guides, events },
    })
  }
}

/** @throws HypometError `no-plan` */
async function prepared(db: Db, testId: number): Promise<Prepared> {
  const [context, viewed] = [await testContext(db, testId), await viewedPlanOf(db, testId)]
  if (!context || !viewed) throw new HypometError('no-plan', 'This test has no plan that holds together yet.')
  const predicted = (await predictionsOf(db, testId)).flatMap(p =>
    p.value === null ? [] : [{ quantity: p.quantity, value: p.value }],
  )
  const { family } = context.test
  const { own } = context.article
  const set = new TestSet(db, { articleId: context.article.id })
  const inForce =
    own.length === 0
      ? []
      : limitsOfRevision(context.revision.id, [...(await set.revisions()).values()], await set.limits())
  const limits = inForce
    .filter(l => own.some(o => o.name === l.quantity))
    .map(({ quantity, name, comparator, value }) => ({ quantity, name, comparator, value }))
  return {
    viewed: { plan: viewed.plan, view: viewed.view },
    title: `${context.article.name} ${context.revision.label}: ${context.test.title}`,
    prefer: context.prefer,
    simulated: { family, properties: context.revision.properties, predicted },
    own: { own: context.article.own, ownLimits: limits },
  }
}

/** Drawn, or as chosen, by the plan's own names. @throws HypometError `unknown-channel` */
function faultsOf(asked: Fault[] | 'drawn', seed: number, view: PlanView): Fault[] {
  if (asked === 'drawn') return drawFaults(seed, view.channels, view.commanded.role, view.duration)
  return asked.map((f, i) => {
    const c = view.channels.find(x => x.role === f.role && x.expression === null)
    if (!c)
      throw new HypometError('unknown-channel', `There is no channel “${f.role}” that is read.`, {
        path: `faults.${i}.role`,
      })
    return { ...f, label: c.label }
  })
}

/** Channels without which nothing can be followed or reduced. */
const neededOf = (family: string, { plan, view }: Pick<ViewedPlan, 'plan' | 'view'>): string[] => {
  const needed = [view.commanded.role, ...planningOf(family).needed.map(n => n.role)]
  return [...new Set(needed.flatMap(role => behind(plan, role)))].filter(role =>
    view.channels.some(c => c.role === role),
  )
}

/** A channel that is read, or those that a derived one is worked out from. */
function behind({ channels }: Pick<Plan, 'channels'>, role: string): string[] {
  const expression = channels.find(c => c.role === role)?.expression
  return expression === undefined ? [role] : namesIn(parseExpression(expression))
}

/** What a run has so far of the channels that consoles are drawn by, with those that are derived. */
async function guidesOf(
  db: Db,
  datasetId: number,
  plan: Plan,
  roles: readonly string[],
): Promise<Record<string, Float64Array>> {
  const found = await recordedSoFar(db, datasetId, { roles: ['t', ...roles.flatMap(role => behind(plan, role))] })
  const derived = new LiveDerived(plan.channels, Object.fromEntries(Object.keys(found).map(role => [role, plan.rate])))
  const { t = new Float64Array(), ...channels } = found
  const all = derived.feed({
    t: Array.from(t),
    channels: Object.fromEntries(Object.entries(channels).map(([role, v]) => [role, Array.from(v)])),
  })
  const made = roles.flatMap(role =>
    role in found || !all.channels[role] ? [] : [[role, all.channels[role]] as const],
  )
  return { ...found, ...Object.fromEntries(made.map(([role, v]) => [role, Float64Array.from(v)])) }
}

function rolesOf(from: Exclude<StartOf, { source: 'rig' }>, { plan, view }: Prepared['viewed']): string[] {
  const read = view.channels.filter(c => c.expression === null).map(c => c.role)
  const had = from.source === 'stream' ? read.filter(role => from.setUp.channels[role]) : read
  // What is set and not read stands in the record as well.
  const set = [...setPointsOf(plan).map(s => s.role), view.commanded.role]
  return [
    ...new Set([...had, ...set.filter(role => !view.channels.some(c => c.role === role && c.expression !== null))]),
  ]
}

const nameOf = (from: StartOf): string => {
  if (from.source === 'rig') return `simulated rig, seed ${from.seed}`
  if (from.source === 'crew') return 'read by hand: each reading stands until the next'
  const { where } = from.setUp
  return where.kind === 'tcp' ? `stream from ${where.host}:${where.port}` : `stream from ${where.path}`
}

/** What a run's samples come from, where it stands. */
async function driverSetUpOf(
  db: Db,
  r: RunRow,
  { view }: Pick<ViewedPlan, 'view'>,
  simulated: Prepared['simulated'],
): Promise<DriverSetUp> {
  if (r.source === 'rig')
    return { kind: 'rig', ...simulated, seed: r.seed, state: r.rigState as SimulatedState, faults: [] }
  const state = r.rigState as RigState | null
  if (r.source === 'stream') return { kind: 'stream', setUp: r.setUp!, state }
  const read = view.channels.filter(c => c.expression === null)
  const soFar = await recordedSoFar(db, r.datasetId)
  // Nothing is on before the first load; what nobody has read is no number.
  const first = (role: string) => (role === view.commanded.role ? 0 : NaN)
  const readings = Object.fromEntries(read.map(c => [c.role, soFar[c.role]?.at(-1) ?? first(c.role)]))
  return { kind: 'crew', state, readings }
}
