import { drawFaults, HypometError, siUnit, type Fault, type Kind, type PlanView, type RigBlock, type RigCommand, type RigState } from '@hypomet/core'
import { and, asc, count, eq, ne, sum } from 'drizzle-orm'
import { record } from '../db/audit'
import { familyOf } from '../db/families'
import type { Database, Db } from '../db/client'
import { notFound } from '../db/notFound'
import { beginRehearsal, endRehearsal, REHEARSALS_FROM, sweepRehearsals } from '../db/rehearsals'
import { UNNAMED } from '../db/unnamed'
import { addChannel, readSamples } from '../db/samples'
import { channel, chunk, dataset, run, runEvent, type LiveEvent } from '../db/schema'
import { planViewOf, testContext } from '../db/stageStates'
import { assertReady } from '../db/readiness'
import { closeRun, LiveRun, type LiveFrame } from './run'
import { watchesOf } from './watch'

export const PACES = [1, 5, 20] as const

/** What may be said to a run; `value` is a reading or a load, SI. */
export interface DeskCommand {
  command: RigCommand | 'call-out' | 'mark' | 'reason' | 'deviation' | 'take' | 'pass'
  note: string
  value: number | null
  to: string
}

/** All runs that are going on; the one place that starts, resumes, commands and closes them. */
export class RunDesk {
  private readonly live = new Map<number, LiveRun>()

  constructor(private readonly database: Database) {}

  /** Begins a run on the simulated rig. @throws HypometError `not-ready`, `no-plan`, `already-running` */
  async start(by: string, testId: number, { pace, seed }: { pace: number; seed: number }): Promise<number> {
    const runId = await this.database.write(async db => {
      await assertReady(db, testId)
      const context = await testContext(db, testId)
      const view = await planViewOf(db, testId)
      if (!context || !view) throw new HypometError('no-plan', 'This test has no plan yet.')
      const open = await db.select().from(run).where(and(eq(run.testId, testId), ne(run.status, 'closed')))
      if (open.length > 0) throw new HypometError('already-running', 'A run of this test is still open; close or resume it first.')
      const at = new Date().toISOString()
      const [data] = await db.insert(dataset).values({ testId, source: 'rig', name: `simulated rig, seed ${seed}`, status: 'recording', warnings: [], createdAt: at }).returning()
      await addChannel(db, { datasetId: data!.id, role: 't', name: 'Time', unit: 's' })
      for (const c of view.channels) if (c.expression === null) await addChannel(db, { datasetId: data!.id, role: c.role, name: c.label, unit: siUnit(c.kind as Kind), sensorId: c.sensorId })
      const rigState = familyOf(context.test.family).stages.rig.start(seed)
      const [made] = await db.insert(run).values({ testId, datasetId: data!.id, source: 'rig', status: 'running', pace, seed, rigState, by, startedAt: at }).returning()
      await record(db, { who: by, what: 'start run', entity: 'run', entityId: made!.id, after: { testId, pace, seed } })
      return made!.id
    })
    await this.open(runId)
    return runId
  }

  /** Begins a rehearsal: the ladder on the simulated rig, with surprises. The plan need not be ready, and no record is touched. */
  async rehearse(by: string, testId: number, { pace, seed, faults }: { pace: number; seed: number; faults: Fault[] | 'drawn' }): Promise<number> {
    const { read: db } = this.database
    const [context, view] = [await testContext(db, testId), await planViewOf(db, testId)]
    if (!context || !view) throw new HypometError('no-plan', 'This test has no plan that holds together yet.')
    const surprises = faults === 'drawn' ? drawFaults(seed, view.channels, view.duration) : faults
    const id = await beginRehearsal(this.database, by, { testId, pace, seed, faults: surprises })
    const runId = REHEARSALS_FROM + id
    const live = new LiveRun({
      database: this.database, runId, testId, datasetId: 0, family: context.test.family, plan: context.test.plan, article: context.revision.properties, view, seed, pace, by, channels: {},
      state: familyOf(context.test.family).stages.rig.start(seed) as RigState, seq: 0, stored: 0, watches: watchesOf(view), prefer: context.prefer,
      rehearsal: { faults: surprises, ended: what => endRehearsal(this.database, id, what) },
    })
    this.live.set(runId, live)
    live.onClosed = () => this.live.delete(runId)
    live.start()
    return runId
  }

  /** Goes on with a run that its process did not survive, from the last recorded sample. */
  async resume(by: string, runId: number): Promise<void> {
    await this.database.write(async db => {
      const [r] = await db.select().from(run).where(eq(run.id, runId))
      if (r?.status !== 'interrupted') throw new HypometError('not-interrupted', 'Only an interrupted run can be resumed.')
      await db.update(run).set({ status: 'running' }).where(eq(run.id, runId))
      await db.insert(runEvent).values({ runId, t: r.rigState?.t ?? 0, kind: 'resumed after a stop', by, at: new Date().toISOString() })
      await record(db, { who: by, what: 'resume run', entity: 'run', entityId: runId })
    })
    await this.open(runId)
  }

  /** Closes an interrupted run with what was recorded. */
  async close(by: string, runId: number): Promise<void> {
    await this.database.write(async db => {
      const [r] = await db.select().from(run).where(eq(run.id, runId))
      if (r?.status !== 'interrupted') throw new HypometError('not-interrupted', 'Only an interrupted run can be closed by hand.')
      await closeRun(db, runId, r.datasetId, r.rigState?.end ?? null)
      await record(db, { who: by, what: 'close run', entity: 'run', entityId: runId })
    })
  }

  /** @throws HypometError `not-running`, `no-controls`, `missing-name`, `missing-reason` */
  command(runId: number, by: string, { command, note, value, to }: DeskCommand): void {
    const live = this.live.get(runId)
    if (!live) throw new HypometError('not-running', 'This run is not going on.')
    if (by === UNNAMED && (command === 'go' || command === 'take' || command === 'deviation')) throw new HypometError('missing-name', 'Say who you are, top right: this goes into the record by name.')
    if (command === 'deviation' && (value === null || note.trim() === '')) throw new HypometError('missing-reason', 'A deviation needs its size and what was done.', { path: value === null ? 'value' : 'note' })
    if (command === 'call-out' && value !== null) return live.shout(by, value, note)
    if (command === 'call-out' || command === 'mark' || command === 'reason') return live.note(command, by, note)
    if (command === 'deviation') return live.deviate(by, value!, note)
    if (command === 'take' || command === 'pass') return live.passControls(by, command === 'take' ? by : to)
    live.command(command, by, note)
  }

  /** What has happened so far, and from then on every frame. */
  async join(runId: number, listener: (frame: LiveFrame) => void): Promise<() => void> {
    const live = this.live.get(runId)
    const { latest, controller } = live?.frame() ?? { latest: {}, controller: '' }
    const first = live?.rehearsed() ?? { ...(await this.history(runId)), latest, controller }
    const leave = live?.listen(listener) ?? (() => {})
    listener(first)
    return leave
  }

  /** Runs whose process ended under them. */
  async sweep(): Promise<void> {
    await this.database.write(async db => {
      await db.update(run).set({ status: 'interrupted' }).where(eq(run.status, 'running'))
      await sweepRehearsals(db)
    })
  }

  async stopAll(): Promise<void> {
    await Promise.all([...this.live.values()].map(l => l.stop()))
  }

  private async open(runId: number): Promise<void> {
    const { read: db } = this.database
    const [r] = await db.select().from(run).where(eq(run.id, runId))
    const context = await testContext(db, r!.testId)
    const view = await planViewOf(db, r!.testId)
    const channels = await db.select().from(channel).where(eq(channel.datasetId, r!.datasetId))
    const time = channels.find(c => c.role === 't')!
    const [stored] = await db.select({ n: count(), samples: sum(chunk.count) }).from(chunk).where(eq(chunk.channelId, time.id))
    const live = new LiveRun({
      database: this.database, runId, testId: r!.testId, datasetId: r!.datasetId, family: context!.test.family, plan: context!.test.plan, article: context!.revision.properties,
      view: view!, seed: r!.seed, pace: r!.pace, by: r!.by, channels: Object.fromEntries(channels.map(c => [c.role, c.id])), state: r!.rigState as RigState, seq: stored!.n, stored: Number(stored!.samples ?? 0), watches: watchesOf(view!), prefer: context!.prefer, rehearsal: null,
    })
    if (Number(stored!.samples ?? 0) > 0) live.prime(await firstRung(db, channels, view!))
    this.live.set(runId, live)
    live.onClosed = () => this.live.delete(runId)
    live.start()
  }

  private async history(runId: number): Promise<Omit<LiveFrame, 'latest' | 'controller'>> {
    const { read: db } = this.database
    const [r] = await db.select().from(run).where(eq(run.id, runId))
    if (!r) throw notFound('run', runId)
    const view = await planViewOf(db, r.testId)
    const channels = await db.select().from(channel).where(eq(channel.datasetId, r.datasetId))
    const samples = async (role: string) => Array.from(await readSamples(db, channels.find(c => c.role === role)!.id))
    const [t, commanded, read] = [await samples('t'), await samples(view!.commanded.role), await samples(view!.read.role)]
    const stride = Math.max(1, Math.ceil(t.length / 2000))
    const thin = (values: number[]) => values.filter((_, i) => i % stride === 0)
    const events: LiveEvent[] = await db.select().from(runEvent).where(eq(runEvent.runId, runId)).orderBy(asc(runEvent.id))
    const { rung = 0, phase = 'ended', elapsed = 0, end = null, t: at = 0 } = r.rigState ?? {}
    return { t: thin(t), commanded: thin(commanded), read: thin(read), state: { t: at, rung, phase, elapsed, end }, events, closed: r.status !== 'running' }
  }
}

/** What was recorded on the first rung, from which zeros are taken. */
async function firstRung(db: Db, channels: (typeof channel.$inferSelect)[], view: PlanView): Promise<RigBlock> {
  const samples = new Map(await Promise.all(channels.map(async c => [c.role, Array.from(await readSamples(db, c.id))] as const)))
  const t = samples.get('t') ?? []
  const end = t.findIndex(x => x >= view.rungs[0]!.hold)
  const n = end === -1 ? t.length : end
  samples.delete('t')
  return { t: t.slice(0, n), channels: Object.fromEntries([...samples].map(([role, values]) => [role, values.slice(0, n)])) }
}
