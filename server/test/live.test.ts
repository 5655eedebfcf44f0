import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import { run, runEvent } from '../db/schema'
import { readDataset } from '../db/samples'
import { testPage } from '../db/tests'
import { RunDesk } from '../live/desk'
import type { LiveFrame } from '../live/run'
import { crossedWatches, watchesOf } from '../live/watch'
import { isLocalRequest } from '../utils/loopback'
import { BY, reduceAndKeep, readyServer, type TestServer } from './campaign'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const pause = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))
async function until(holds: () => Promise<boolean> | boolean): Promise<void> {
  for (let i = 0; i < 200; i++) {
    if (await holds()) return
    await pause(50)
  }
  throw new Error('waited too long')
}

describe('a run on the simulated rig', () => {
  it('records every sample, survives its process, resumes, and becomes a dataset like any other', async () => {
    const { database } = server
    const desk = new RunDesk(database)
    const runId = await desk.start(BY, testId, { pace: 20, seed: 4 })
    const frames: LiveFrame[] = []
    await desk.join(runId, f => frames.push(f))
    await pause(1500)
    desk.command(runId, 'call-out', 'Ada', '')
    await until(async () => (await database.read.select().from(runEvent).where(eq(runEvent.kind, 'call-out'))).length === 1)
    expect((await testPage(database, testId)).predictions.every(p => p.lockedAt !== null)).toBe(true)

    // The process ends here, without a word: only what was flushed counts.
    const lastSeen = frames.at(-1)!.state.t
    await desk.stopAll()
    const second = new RunDesk(database)
    await second.sweep()
    const [stored] = await database.read.select().from(run).where(eq(run.id, runId))
    expect(stored!.status).toBe('interrupted')
    expect(stored!.rigState!.t).toBeGreaterThan(lastSeen - 1 * stored!.pace)

    await second.resume(BY, runId)
    await pause(500)
    second.command(runId, 'abort', BY, '')
    await until(async () => (await database.read.select().from(run).where(eq(run.id, runId)))[0]!.status === 'closed')
    const page = await testPage(database, testId)
    expect(page.runs[0]).toMatchObject({ status: 'closed', end: 'aborted' })
    expect(page.runs[0]!.events.map(e => e.kind)).toEqual(expect.arrayContaining(['call-out', 'resumed after a stop', 'abort']))
    const { columns } = await readDataset(database.read, page.datasets[0]!.id)
    const t = columns['t']!
    expect(t.length).toBe(page.datasets[0]!.rows)
    for (let i = 1; i < t.length; i++) expect(t[i]! - t[i - 1]!).toBeCloseTo(0.1, 9)
  })

  it('one at a time; closed with what it has, it can be reduced', async () => {
    const { database } = server
    const desk = new RunDesk(database)
    const runId = await desk.start(BY, testId, { pace: 20, seed: 4 })
    await expect(desk.start(BY, testId, { pace: 20, seed: 4 })).rejects.toMatchObject({ code: 'already-running' })
    await pause(4200)
    desk.command(runId, 'hold', BY, '')
    await desk.stopAll()
    await desk.sweep()
    await desk.close(BY, runId)
    const kept = await reduceAndKeep(server, testId)
    expect(kept.output.results['stiffness']!.value).toBeGreaterThan(20_000)
  })
})

describe('watch rules', () => {
  it('speak up when a channel passes 95 % of its sensor’s range, on full-rate data', async () => {
    const watches = watchesOf((await testPage(server.database, testId)).view!)
    const crossed = (load: number[]) => crossedWatches(watches, { t: load, channels: { load } }).map(w => [w.role, w.hold])
    expect(crossed([9400, 9499])).toEqual([])
    expect(crossed([9400, -9501, 9400])).toEqual([['load', true]])
  })
})

describe('who is answered', () => {
  it('this machine, by its own name, from its own pages', () => {
    expect(isLocalRequest('127.0.0.1', 'localhost:4500', undefined)).toBe(true)
    expect(isLocalRequest('::1', '[::1]:4500', 'http://[::1]:4500')).toBe(true)
    expect(isLocalRequest('192.168.1.7', 'localhost:4500', undefined)).toBe(false)
    expect(isLocalRequest('127.0.0.1', 'rig.example:4500', undefined)).toBe(false)
    expect(isLocalRequest('127.0.0.1', 'localhost:4500', 'https://elsewhere.example')).toBe(false)
  })
})
