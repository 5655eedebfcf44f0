import {
  drawFaults,
  HypometError,
  planningOf,
  simulatedRigOf,
  type Fault,
  type PlanView,
  type RigCommand,
  type RigState,
  type SimulatedRig,
  type SimulatedState,
  type UnitPreference,
  type ViewedPlan,
} from '@hypomet/core'
import { audit } from '../db/connection/audit'
import type { Database, Db } from '../db/connection/client'
import { assertReady } from '../db/tests/readiness'
import { beginRehearsal, endRehearsal, REHEARSALS_FROM, sweepRehearsals } from '../db/tests/rehearsals'
import type { Broke, StreamSetUp } from '../db/schema'
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
import { viewedPlanOf } from '../db/tests/viewedPlan'
import { predictionsOf } from '../db/tests/tests'
import { UNNAMED } from '../db/connection/unnamed'
import { CrewDriver } from './drivers/crew'
import type { Driver } from './drivers/driver'
import { LadderFollower } from './drivers/follower'
import { SimulatedDriver } from './drivers/simulated'
import { sourceOf, StreamDriver } from './drivers/stream'
import type { LiveFrame } from './frame'
import { recordedSoFar, StoreRecorder, type Recorder } from '../db/records/recorder'
import { LiveRun, type Console, type Going } from './run'
import { layoutOf } from './streamSetUp'

export const PACES = [1, 5, 20] as const

/** Where the samples come from. A simulated rig may have faults, chosen or drawn from its seed. */
export type StartOf =
  | { source: 'rig'; pace: number; seed: number; faults?: Fault[] | 'drawn' }
  | { source: 'stream'; setUp: StreamSetUp }
  | { source: 'crew' }

/** What may be said to a run; `value` is a reading or a load, SI. */
export interface RunCommand {
  command:
    RigCommand | 'call-out' | 'mark' | 'photo' | 'reason' | 'deviation' | 'take' | 'pass' | 'read' | 'tare' | 'let-go'
  note: string
  /** Of a break. */
  mode?: string
  place?: string
  value: number | null
  to: string
  /** s of baseline */
  seconds?: number
  /** By role, SI. */
  readings?: Record<string, number>
}

const NAMED = new Set<RunCommand['command']>(['go', 'count-down', 'take', 'deviation', 'broke', 'tare'])

/** What a test needs to be run. */
interface Prepared {
  viewed: ViewedPlan
  rig(seed: number): SimulatedRig
  prefer: UnitPreference
  family: string
  title: string
}

/** All runs that are going on; the one place that starts, resumes, commands and closes them. */
export class RunManager {
  private readonly live = new Map<number, LiveRun>()

  constructor(
    private readonly database: Database,
    private readonly recorder: Recorder = new StoreRecorder(change => database.write(change)),
  ) {}

  /** Begins a run. @throws HypometError `not-ready`, `no-plan`, `already-running`, and those of the stream's set-up */
  async start(by: string, testId: number, from: StartOf): Promise<number> {
    const runId = await this.database.write(async db => {
      await assertReady(db, testId)
      const { viewed, rig, family } = await prepared(db, testId)
      if (from.source === 'stream') layoutOf(from.setUp, viewed.plan, neededOf(family, viewed))
      await assertNoOpenRun(db, testId)
      const seed = from.source === 'rig' ? from.seed : 0
      const groups =
        from.source === 'rig'
          ? rig(seed).groups.map(g => ({ rate: g.rate, roles: g.readers.map(r => r.role) }))
          : [{ rate: viewed.plan.rate, roles: rolesOf(from, viewed) }]
      const datasetId = await openRecords(
        db,
        testId,
        { view: viewed.view, source: from.source, name: nameOf(from) },
        groups,
      )
      const rigState =
        from.source === 'rig' ? rig(seed).start(seed, faultsOf(from.faults ?? [], seed, viewed.view)) : null
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
    // A run owns its console: a rehearsal of the same test ends for it.
    for (const [id, live] of this.live)
      if (id >= REHEARSALS_FROM && live.going().testId === testId) live.command('abort', by, 'a run begins')
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
    const {
      viewed: { plan, view },
      rig,
      prefer,
      title,
    } = await prepared(this.database.read, testId)
    if (this.going().some(g => g.testId === testId && !g.isRehearsal))
      throw new HypometError('already-running', 'A run of this test is on: its console is not taken for a rehearsal.')
    const surprises = faultsOf(faults, seed, view)
    const id = await beginRehearsal(this.database, by, { testId, pace, seed, faults: surprises })
    const runId = REHEARSALS_FROM + id
    const simulated = rig(seed)
    this.keep(
      runId,
      new LiveRun({
        runId,
        testId,
        title,
        plan,
        view,
        pace,
        prefer,
        begin: 0,
        controls: by,
        recorder: null,
        groups: simulated.groups.map(g => ({
          datasetId: 0,
          channelIds: [],
          roles: g.readers.map(r => r.role),
          stored: 0,
        })),
        driver: new SimulatedDriver(simulated, plan.rate, simulated.start(seed, surprises)),
        ended: what => endRehearsal(this.database, id, what),
      }),
    )
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
    await this.recorder.close(runId, r.rigState?.end ?? null)
    await this.database.write(db => audit(db, { who: by, what: 'close run', entity: 'run', entityId: runId }))
  }

  /** @throws HypometError `not-running`, `no-controls`, `missing-name`, `missing-reason`, `not-by-hand` */
  command(
    runId: number,
    by: string,
    { command, note, value, to, seconds, readings = {}, mode = '', place = '' }: RunCommand,
  ): void {
    const live = this.live.get(runId)
    if (!live) throw new HypometError('not-running', 'This run is not going on.')
    if (by === UNNAMED && NAMED.has(command))
      throw new HypometError('missing-name', 'Say who you are, top right: this goes into the record by name.')
    if (command === 'deviation' && (value === null || note.trim() === ''))
      throw new HypometError('missing-reason', 'A deviation needs its size and what was done.', {
        path: value === null ? 'value' : 'note',
      })
    if (command === 'stop' && note.trim() === '')
      throw new HypometError('missing-reason', 'A stop needs its reason; an abort does not.', { path: 'note' })
    switch (command) {
      case 'call-out':
        return value === null ? live.note(command, by, note) : live.shout(by, value, note)
      case 'mark':
      case 'photo':
      case 'reason':
        return live.note(command, by, note)
      case 'deviation':
        return live.deviate(by, value!, note)
      case 'take':
        return live.passControls(by, by)
      case 'pass':
        return live.passControls(by, to)
      case 'read':
        return live.read(by, readings)
      case 'tare':
        return live.takeTare(by, value === 1)
      case 'let-go':
        return live.letGo(by)
      case 'broke':
        return this.broke(runId, by, live, { peak: value, mode: mode.trim(), place: place.trim(), note: note.trim() })
      default:
        return live.command(command, by, note, seconds)
    }
  }

  /** An abort is on the disk before it is answered; false where the disk kept it waiting. */
  async isOnDisk(runId: number): Promise<boolean> {
    return (await this.live.get(runId)?.settled())?.isStored ?? true
  }

  /** Runs that go on now, and where they stand; from memory, for every page. */
  going(): Going[] {
    return [...this.live].map(([runId, live]) => ({ runId, ...live.going() }))
  }

  /** Kept with the run before it ends: Judge begins from it. */
  private broke(runId: number, by: string, live: LiveRun, seen: Broke): void {
    const words = [[seen.mode, seen.place].filter(Boolean).join(', '), seen.note].filter(Boolean).join(': ')
    live.broke(by, { peak: seen.peak, words })
    // The words stand among the run's events as well: a store that does not take this one loses nothing of them.
    this.database
      .write(db => keepBroke(db, runId, seen))
      .catch((e: unknown) => console.error(`Run ${runId}: how it broke could not be kept beside it.`, e))
  }

  /** What has happened so far, and from then on every frame. @throws HypometError `not-running` */
  join(runId: number, who: string, send: (frame: LiveFrame) => void): { leave(): void; draw(roles: string[]): void } {
    const live = this.live.get(runId)
    if (!live) throw new HypometError('not-running', 'This run is not going on.')
    const console: Console = { who, roles: [], send }
    const leave = live.join(console)
    return { leave, draw: roles => live.draw(console, roles) }
  }

  /** Runs whose process ended under them. */
  async sweep(): Promise<void> {
    await this.database.write(async db => {
      await interruptRuns(db)
      await sweepRehearsals(db)
    })
  }

  async stopAll(): Promise<void> {
    await Promise.all([...this.live.values()].map(l => l.stop()))
  }

  private keep(runId: number, live: LiveRun): LiveRun {
    this.live.set(runId, live)
    live.onClosed = () => this.live.delete(runId)
    live.start()
    return live
  }

  private async open(runId: number): Promise<void> {
    const { read: db } = this.database
    const r = await runOf(db, runId)
    const { viewed, rig, prefer, title } = await prepared(db, r!.testId)
    const { commanded, read } = viewed.view
    const guides = await recordedSoFar(db, r!.datasetId, { roles: ['t', commanded.role, read.role] })
    const said = await eventsOfRun(db, runId)
    const live = new LiveRun({
      runId,
      testId: r!.testId,
      title,
      ...viewed,
      pace: r!.pace,
      prefer,
      controls: r!.controls,
      recorder: this.recorder,
      groups: await runGroupsOf(db, r!.datasetId),
      // A stand-in for a rig stood still meanwhile; a logger and a crew did not.
      begin: r!.source === 'rig' ? (r!.rigState?.t ?? 0) : (Date.now() - Date.parse(r!.startedAt)) / 1000,
      driver: await driverOf(db, r!, viewed, rig),
      ended: ({ end }) => this.recorder.close(runId, end),
    })
    const t = guides['t']!
    if (t.length > 0) {
      const until = t.findIndex(x => x >= viewed.view.rungs[0]!.hold)
      live.prime(await recordedSoFar(db, r!.datasetId, { to: until < 0 ? t.length : until }), guides, said)
    }
    this.keep(runId, live)
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
  return {
    viewed,
    family,
    title: `${context.article.name} ${context.revision.label}: ${context.test.title}`,
    prefer: context.prefer,
    rig: seed => simulatedRigOf(family, viewed, context.revision.properties, { seed, predicted }),
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
const neededOf = (family: string, { view }: ViewedPlan): string[] =>
  [...new Set([view.commanded.role, ...planningOf(family).needed.map(n => n.role)])].filter(role =>
    view.channels.some(c => c.role === role),
  )

function rolesOf(from: Exclude<StartOf, { source: 'rig' }>, { view }: ViewedPlan): string[] {
  const read = view.channels.filter(c => c.expression === null).map(c => c.role)
  return from.source === 'stream' ? read.filter(role => from.setUp.channels[role]) : read
}

const nameOf = (from: StartOf): string => {
  if (from.source === 'rig') return `simulated rig, seed ${from.seed}`
  if (from.source === 'crew') return 'read by hand: each reading stands until the next'
  const { where } = from.setUp
  return where.kind === 'tcp' ? `stream from ${where.host}:${where.port}` : `stream from ${where.path}`
}

async function driverOf(db: Db, r: RunRow, { plan, view }: ViewedPlan, rig: Prepared['rig']): Promise<Driver> {
  if (r.source === 'rig') return new SimulatedDriver(rig(r.seed), plan.rate, r.rigState as SimulatedState)
  const follower = new LadderFollower(plan.rungs, view.commanded.role, view.maxTarget, r.rigState as RigState | null)
  // Nobody knows what went on meanwhile: the ladder stands until somebody has looked.
  if (r.rigState) follower.command('hold')
  if (r.source === 'stream') return new StreamDriver(sourceOf(r.setUp!.where), layoutOf(r.setUp!, plan, []), follower)
  const read = view.channels.filter(c => c.expression === null)
  const soFar = await recordedSoFar(db, r.datasetId)
  return new CrewDriver(
    follower,
    view.commanded.role,
    Object.fromEntries(read.map(c => [c.role, soFar[c.role]?.at(-1) ?? 0])),
  )
}
