import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import { run, runEvent } from '../db/schema'
import { readDataset } from '../db/records/samples'
import { testPage } from '../db/tests/tests'
import type { RunCommand } from '../live/rigs'
import { RunManager } from '../live/runManager'
import type { LiveFrame } from '../live/frame'
import { isLocalRequest, type Asking } from '../utils/loopback'
import { armWithPlan, BY, makeReady, reduceAndKeep, readyServer, type TestServer } from './campaign'
import { savePlan } from '../db/tests/plans'
import { until } from './until'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const pause = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))
describe('a run on the simulated rig', () => {
  it('records every sample, survives its process, resumes, and becomes a dataset like any other', async () => {
    const { database } = server
    const manager = new RunManager(database)
    const runId = await manager.start(BY, testId, { source: 'rig', pace: 20, seed: 4 })
    const frames: LiveFrame[] = []
    manager.join(runId, 'Eve', f => frames.push(f))
    await pause(1500)
    manager.command(runId, 'Ada', { command: 'call-out', note: '', value: null, to: '' })
    await until(
      async () => (await database.read.select().from(runEvent).where(eq(runEvent.kind, 'call-out'))).length === 1,
    )
    expect((await testPage(database, testId)).predictions.every(p => p.lockedAt !== null)).toBe(true)

    // The process ends here, without a word: only what was flushed counts.
    const lastSeen = frames.at(-1)!.state.t
    await manager.stopAll()
    const second = new RunManager(database)
    await second.sweep()
    const [stored] = await database.read.select().from(run).where(eq(run.id, runId))
    expect(stored!.status).toBe('interrupted')
    expect(stored!.rigState!.t).toBeGreaterThan(lastSeen - 1 * stored!.pace)

    await second.resume(BY, runId)
    await pause(500)
    second.command(runId, BY, { command: 'abort', note: '', value: null, to: '' })
    await until(async () => (await database.read.select().from(run).where(eq(run.id, runId)))[0]!.status === 'closed')
    const page = await testPage(database, testId)
    expect(page.runs[0]).toMatchObject({ status: 'closed', end: 'aborted' })
    expect(page.runs[0]!.events.map(e => e.kind)).toEqual(
      expect.arrayContaining(['call-out', 'resumed after a stop', 'abort']),
    )
    const { columns } = await readDataset(database.read, page.datasets[0]!.id)
    const t = columns['t']!
    expect(t.length).toBe(page.datasets[0]!.rows)
    for (let i = 1; i < t.length; i++) expect(t[i]! - t[i - 1]!).toBeCloseTo(0.1, 9)
  })

  it('one at a time; closed with what it has, it can be reduced', async () => {
    const { database } = server
    const manager = new RunManager(database)
    const runId = await manager.start(BY, testId, { source: 'rig', pace: 20, seed: 4 })
    await expect(manager.start(BY, testId, { source: 'rig', pace: 20, seed: 4 })).rejects.toMatchObject({
      code: 'already-running',
    })
    await pause(4200)
    manager.command(runId, BY, { command: 'hold', note: '', value: null, to: '' })
    await manager.stopAll()
    await manager.sweep()
    await manager.close(BY, runId)
    const kept = await reduceAndKeep(server, testId)
    expect(kept.output.results['stiffness']!.value).toBeGreaterThan(20_000)
  })
})

describe('the console', () => {
  it(
    'waits at a decision rung for whoever has the controls; a watch rule holds on the sample that crossed; ' +
      'deviations have a size',
    async () => {
      const { database } = server
      const arm = await armWithPlan(database)
      await savePlan(database, BY, arm.testId, {
        ...arm.plan,
        rungs: arm.plan.rungs.map((r, i) => (i === 1 ? { ...r, decision: true } : r)),
        watch: [{ kind: 'limit', role: 'deflection', value: { value: 30, unit: 'mm' }, action: 'hold' }],
      })
      await makeReady(database, arm.testId)
      const manager = new RunManager(database)
      const runId = await manager.start('Ada', arm.testId, { source: 'rig', pace: 20, seed: 4 })
      const frames: LiveFrame[] = []
      manager.join(runId, 'Eve', f => frames.push(f))
      const say = (by: string, command: RunCommand['command'], more: Partial<RunCommand> = {}) =>
        manager.command(runId, by, { command, note: '', value: null, to: '', ...more })
      await until(() => frames.at(-1)?.state.phase === 'waiting')
      expect(() => say('Bo', 'go')).toThrow(expect.objectContaining({ code: 'no-controls' }) as Error)
      say('Ada', 'pass', { to: 'Bo' })
      const now = () => frames.findLast(f => f.now)!.now!
      expect(now()).toMatchObject({ controller: 'Bo', watching: ['Eve'] })
      // The tip's zero is off: what the console shows is not.
      expect(now().latest['deflection']! / (800 * 2.4e-5)).toBeCloseTo(1, 0)
      expect(now().next!.value / (1600 * 2.4e-5)).toBeCloseTo(1, 0)
      say('Bo', 'go')
      await until(() => frames.at(-1)?.state.phase === 'paused')
      expect(() => say('Bo', 'deviation', { note: 'a spanner' })).toThrow(
        expect.objectContaining({ code: 'missing-reason', place: { path: 'value' } }) as Error,
      )
      say('Cy', 'deviation', { value: 40, note: 'a spanner left on the hook' })
      say('Cy', 'call-out', { value: 0.0314 })
      say('Cy', 'abort')
      say('Cy', 'reason', { note: 'far enough' })
      await until(async () => (await database.read.select().from(run).where(eq(run.id, runId)))[0]!.status === 'closed')
      const events = (await testPage(database, arm.testId)).runs[0]!.events
      expect(events.filter(e => !['rung reached'].includes(e.kind)).map(e => [e.kind, e.by])).toEqual([
        ['tare', 'rig'],
        ['waits for a go', 'rig'],
        ['controls passed', 'Ada'],
        ['go', 'Bo'],
        ['hold', 'watch rule'],
        ['watch', 'watch rule'],
        ['deviation', 'Cy'],
        ['call-out', 'Cy'],
        ['abort', 'Cy'],
        ['reason', 'Cy'],
      ])
      const watched = events.find(e => e.kind === 'watch')!
      expect(watched.note).toMatch(
        /Tip deflection reads 30\.\d\smm, beyond 30\.0\smm: ladder held \(\d+\.\d ms after its sample\)/,
      )
      expect(events.find(e => e.kind === 'deviation')).toMatchObject({ value: 40, note: 'a spanner left on the hook' })
      expect(events.find(e => e.kind === 'call-out')).toMatchObject({ reading: 0.0314, note: 'called-out reading' })
    },
  )
})

describe('a rehearsal', () => {
  it('tells afterwards what was noticed and what was missed, and leaves no trace in the record', async () => {
    const { database } = server
    const manager = new RunManager(database)
    const dead = (at: number) => ({ kind: 'gauge-dies' as const, role: 'strainRoot', label: 'Root cap strain', at })
    const rehearse = async (
      faults: Parameters<RunManager['rehearse']>[2]['faults'],
      then: (runId: number, frames: LiveFrame[]) => Promise<void>,
    ) => {
      const runId = await manager.rehearse('Ada', testId, { pace: 20, seed: 4, faults })
      const frames: LiveFrame[] = []
      manager.join(runId, 'Eve', f => frames.push(f))
      await then(runId, frames)
      manager.command(runId, 'Ada', { command: 'abort', note: '', value: null, to: '' })
      await until(async () => (await testPage(database, testId)).rehearsals[0]!.endedAt !== null)
      return (await testPage(database, testId)).rehearsals[0]!
    }
    const at = (t: number, frames: LiveFrame[]) => until(() => (frames.at(-1)?.state.t ?? 0) >= t)
    const seen = await rehearse([dead(30)], async (runId, frames) => {
      await at(36, frames)
      // What it tells is dead: the reading stands where it stood.
      const still = frames.findLast(f => f.now)!.now!.latest['strainRoot']
      await at(50, frames)
      expect(frames.findLast(f => f.now)!.now!.latest['strainRoot']).toBe(still)
      expect((await testPage(database, testId)).rehearsals[0]!.debrief).toEqual([])
      manager.command(runId, 'Bo', { command: 'mark', note: 'gauge is dead', value: null, to: '' })
    })
    expect(seen.debrief[0]).toMatchObject({
      words: 'Root cap strain goes dead: its reading stands still',
      noticed: { by: 'Bo', kind: 'mark' },
      missed: false,
    })
    expect(seen.debrief[0]!.noticed!.after).toBeGreaterThan(19)
    const early = await rehearse([dead(500)], async () => void (await pause(300)))
    expect(early.debrief[0]).toMatchObject({ came: false, missed: false })
    const page = await testPage(database, testId)
    expect([page.runs, page.datasets, page.predictions.filter(p => p.lockedAt)]).toEqual([[], [], []])
    expect(page.rehearsals.map(r => r.end)).toEqual(['aborted', 'aborted'])
  })
})

describe('who is answered', () => {
  it('this machine, by its own name, from its own pages', () => {
    const asked = (change: Partial<Asking>) =>
      isLocalRequest({
        remoteAddress: '127.0.0.1',
        method: 'POST',
        host: 'localhost:4500',
        origin: undefined,
        ...change,
      })
    expect(asked({})).toBe(true)
    expect(asked({ remoteAddress: '::1', host: '[::1]:4500', origin: 'http://[::1]:4500' })).toBe(true)
    expect(asked({ remoteAddress: '192.168.1.7' })).toBe(false)
    expect(asked({ host: 'rig.example:4500' })).toBe(false)
    expect(asked({ origin: 'https://elsewhere.example' })).toBe(false)
    // Another port of this machine is another page, and so is another scheme or a page in a file.
    for (const origin of ['http://localhost:4501', 'https://localhost:4500', 'http://127.0.0.1:4500', 'null'])
      expect(asked({ origin }), origin).toBe(false)
    expect(asked({ site: 'same-site' })).toBe(false)
    expect(asked({ method: 'GET', site: 'cross-site', mode: 'no-cors' })).toBe(false)
    expect(asked({ method: 'GET', site: 'cross-site', mode: 'navigate' })).toBe(true)
  })
})
