import { createServer, type Server, type Socket } from 'node:net'
import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { run, type LiveEvent } from '../db/schema'
import { StoreRecorder, type Batch, type Recorder } from '../db/records/recorder'
import { readDataset } from '../db/records/samples'
import { savePlan } from '../db/tests/plans'
import { testPage } from '../db/tests/tests'
import type { LiveRigs, RunCommand } from '../live/rigs'
import { RunManager } from '../live/runManager'
import type { LiveFrame } from '../live/frame'
import { armWithPlan, BY, makeReady, type TestServer } from './campaign'
import { temporaryDatabase } from './database'
import { until } from './until'

/* A crew's day with loggers of our own making, and what goes wrong on them. */

const pause = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

/** A logger on a port of its own: lines of time, load in N and deflection in mm, as a test says them. */
class Logger {
  private readonly sockets: Socket[] = []
  private readonly server: Server
  private constructor() {
    this.server = createServer(s => void this.sockets.push(s))
  }
  static async open(): Promise<Logger> {
    const logger = new Logger()
    await new Promise<void>(resolve => logger.server.listen(0, '127.0.0.1', resolve))
    return logger
  }
  get port(): number {
    return (this.server.address() as { port: number }).port
  }
  say(text: string): void {
    for (const s of this.sockets) s.write(text)
  }
  get isHeard(): boolean {
    return this.sockets.length > 0
  }
  close(): void {
    this.sockets.forEach(s => s.destroy())
    this.server.close()
  }
}

/** A recorder that refuses what a test says. */
class Fussy implements Recorder {
  refuses: (batch: Batch) => boolean = () => false
  readonly store: Recorder['store']
  readonly close: Recorder['close']
  constructor(inner: Recorder) {
    this.store = async batch => {
      if (this.refuses(batch)) throw new Error('refused')
      await inner.store(batch)
    }
    this.close = (...args) => inner.close(...args)
  }
}

let server: TestServer
let testId: number
let logger: Logger
let recorder: Fussy
let manager: RunManager
let runId: number
let frames: LiveFrame[]
beforeEach(async () => {
  server = await temporaryDatabase()
  const arm = await armWithPlan(server.database)
  await savePlan(server.database, BY, arm.testId, {
    ...arm.plan,
    watch: [{ kind: 'limit', role: 'deflection', value: { value: 40, unit: 'mm' }, action: 'hold' }],
  })
  await makeReady(server.database, arm.testId)
  testId = arm.testId
  logger = await Logger.open()
  recorder = new Fussy(new StoreRecorder(change => server.database.write(change)))
  manager = new RunManager<LiveRigs>(server.database, recorder)
  const channels = { load: { column: 'Load', unit: 'N' }, deflection: { column: 'Tip', unit: 'mm' } }
  runId = await manager.start(BY, testId, {
    source: 'stream',
    setUp: {
      where: { kind: 'tcp', host: '127.0.0.1', port: logger.port },
      delimiter: ';',
      names: ['Time', 'Load', 'Tip'],
      channels: { t: { column: 'Time', unit: 's' }, ...channels },
    },
  })
  frames = []
  manager.join(runId, 'Eve', f => frames.push(f))
  await until(() => logger.isHeard)
})
afterEach(async () => {
  await manager.stopAll()
  logger.close()
  server.close()
})

const events = (): LiveEvent[] => frames.flatMap(f => f.events)
const kinds = () => events().map(e => e.kind)
const say = (command: RunCommand['command'], more: Partial<RunCommand> = {}) =>
  manager.command(runId, BY, { command, note: '', value: null, to: '', ...more })
let clock = 100
/** So many lines, ten a second of the logger's clock, as fast as they can be said in real time. */
async function lines(n: number, cells: (i: number) => string): Promise<void> {
  for (let i = 0; i < n; i++) {
    logger.say(`${(clock += 0.1).toFixed(1)};${cells(i)}\n`)
    await pause(100)
  }
}
/** It parts: the run is over at once. */
const parted = () => say('broke')
async function recorded() {
  await until(
    async () => (await server.database.read.select().from(run).where(eq(run.id, runId)))[0]!.status === 'closed',
  )
  const { datasets, runs } = await testPage(server.database, testId)
  return { columns: (await readDataset(server.database.read, datasets[0]!.id)).columns, run: runs[0]! }
}

describe('a record that never jams', () => {
  it('NaN, overloads, words and a mark are gaps and events; what is beyond its range is beyond its limit', async () => {
    await lines(12, () => '0;0')
    await until(() => kinds().includes('tare'))
    await lines(3, () => 'NaN;NaN')
    say('mark')
    await lines(3, () => '12;ERR')
    expect(kinds()).not.toContain('watch')
    await lines(3, () => '100;OVERLOAD')
    await until(() => kinds().includes('watch'))
    const watched = events().flatMap(e => (e.kind === 'watch' ? [e.note] : []))
    expect(watched.join(' ')).toMatch(/is beyond what can be read, and so beyond 40\.0\smm/)
    expect(frames.findLast(f => f.now)!.state.phase).toBe('paused')
    say('abort')
    await expect(manager.isOnDisk(runId)).resolves.toBe(true)
    parted()
    const { columns, run: stored } = await recorded()
    expect(stored.events.map(e => e.kind)).toEqual(expect.arrayContaining(['mark', 'overload', 'bad-cell', 'abort']))
    // Lines without a number in them lost no other cell.
    expect(Array.from(columns['load']!).filter(v => v === 12)).toHaveLength(3)
    expect(Array.from(columns['deflection']!).filter(Number.isNaN).length).toBeGreaterThanOrEqual(9)
    expect(columns['deflection']!.some(v => Math.abs(v) === Infinity)).toBe(false)
  }, 20_000)

  it('an event that cannot be written keeps nothing waiting, and is written without what cannot', async () => {
    recorder.refuses = b => b.events.some(e => e.kind === 'call-out' && e.reading !== null)
    await lines(5, () => '0;0')
    say('call-out', { value: 0.031, note: 'as shouted' })
    await lines(5, () => '0;0')
    await until(() => frames.findLast(f => f.now)!.now!.recorder.problem === '')
    parted()
    const { run: stored, columns } = await recorded()
    const shouted = stored.events.find(e => e.kind === 'call-out')!
    expect(shouted).toMatchObject({ reading: null, note: expect.stringContaining('without what could not') as string })
    expect(columns['t']!.length).toBeGreaterThanOrEqual(10)
  }, 20_000)

  it('a store that takes nothing holds the ladder, is asked again, and can be left', async () => {
    await lines(8, () => '0;0')
    recorder.refuses = () => true
    await lines(4, () => '0;0')
    await until(() => frames.findLast(f => f.now)!.now!.recorder.problem !== '')
    expect(frames.at(-1)!.state.phase).toBe('paused')
    say('abort')
    await expect(manager.isOnDisk(runId)).resolves.toBe(false)
    parted()
    expect(frames.at(-1)!.closed).toBe(false)
    say('let-go')
    await recorded()
  }, 30_000)
})

describe('nobody knows what is on', () => {
  it('a watched channel without a number for a second holds the ladder, though lines come', async () => {
    await lines(12, () => '0;0')
    await lines(14, () => '0;')
    await until(() => kinds().includes('guard lost'))
    expect(events().find(e => e.kind === 'guard lost')).toMatchObject({ role: 'deflection' })
    expect(frames.findLast(f => f.now)!.state.phase).toBe('paused')
    expect(frames.findLast(f => f.now)!.now!.ages['deflection']).toBeGreaterThanOrEqual(1)
    await lines(2, () => '0;0')
    await until(() => kinds().includes('guard back'))
  }, 20_000)

  it('a line of which half came after a pause does not throw the clock, nor does a torn one', async () => {
    await lines(10, () => '0;0')
    logger.say(`${(clock += 0.1).toFixed(1).slice(0, 2)}`)
    await pause(300)
    logger.say(`${clock.toFixed(1).slice(2)};7;0\n4522;9;9\n`)
    await lines(6, () => '0;0')
    parted()
    const { columns } = await recorded()
    expect(Array.from(columns['load']!)).toContain(7)
    expect(Array.from(columns['load']!)).not.toContain(9)
    expect(columns['t']!.at(-1)!).toBeLessThan(60)
  }, 20_000)
})

describe('a zero', () => {
  it('is taken once, is refused under load, and taken there when that is meant', async () => {
    await lines(14, () => '250;3')
    await until(() => kinds().includes('tare'))
    const now = () => frames.findLast(f => f.now)!.now!
    expect(now().zeros['load']).toBeCloseTo(250, 6)
    // The load of the first rung goes on before its time is over: nothing of it goes into the zero.
    await lines(14, () => '1050;20')
    expect(now().latest['load']).toBeCloseTo(800, 6)
    expect(() => say('tare')).toThrow(expect.objectContaining({ code: 'tare-loaded' }) as Error)
    say('tare', { value: 1 })
    expect(events().findLast(e => e.kind === 'tare')!.note).toMatch(/with 0\.800\skN on, confirmed/)
    await lines(3, () => '1050;20')
    expect(now().latest['load']).toBeCloseTo(0, 6)
  }, 20_000)

  it('a run owns its console: no rehearsal begins beside it', async () => {
    await expect(manager.rehearse('Bo', testId, { pace: 20, seed: 1, faults: [] })).rejects.toMatchObject({
      code: 'already-running',
    })
    expect(manager.going()).toMatchObject([{ runId, testId, isRehearsal: false, rung: 1 }])
  })
})
