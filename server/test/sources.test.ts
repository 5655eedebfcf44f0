import { appendFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { count, eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { declareOwn } from '../db/articles/own'
import { savePlan } from '../db/tests/plans'
import { readDataset } from '../db/records/samples'
import { channel, chunk, dataset, run, runBlock, runEvent, type StreamSetUp } from '../db/schema'
import { testPage } from '../db/tests/tests'
import type { LiveRigs, RunCommand } from '../live/rigs'
import { RunManager, type StartOf } from '../live/runManager'
import type { LiveFrame } from '../live/frame'
import { recordedSoFar, StoreRecorder, type Batch, type Recorder } from '../db/records/recorder'
import { startBody } from '../live/startBody'
import { lookAtStream } from '../live/streamSetUp'
import { armWithPlan, BY, makeReady, readyServer, reduceAndKeep, refused, type TestServer } from './campaign'
import { until } from './until'

let server: TestServer
let testId: number
beforeEach(async () => ({ server, testId } = await readyServer()))
afterEach(() => server.close())

const say = (manager: RunManager, runId: number, command: RunCommand['command'], more: Partial<RunCommand> = {}) =>
  manager.command(runId, BY, { command, note: '', value: null, to: '', ...more })
const status = async (runId: number) => (await server.database.read.select().from(run).where(eq(run.id, runId)))[0]!
const eventsOf = async (runId: number) => server.database.read.select().from(runEvent).where(eq(runEvent.runId, runId))

async function begin(from: StartOf, recorder?: Recorder) {
  const manager = new RunManager<LiveRigs>(server.database, recorder)
  const runId = await manager.start(BY, testId, from)
  const frames: LiveFrame[] = []
  manager.join(runId, 'Eve', f => frames.push(f))
  const now = () => frames.findLast(f => f.now)!.now!
  return {
    manager,
    runId,
    frames,
    now,
    end: async () => {
      say(manager, runId, 'abort')
      await until(async () => (await status(runId)).status === 'closed', 40)
    },
  }
}

/** A logger that serves lines to whoever connects. */
async function logger(): Promise<{ port: number; send(text: string): void; hangUp(): void; close(): Promise<void> }> {
  const sockets = new Set<Socket>()
  const listener: Server = createServer(s => {
    sockets.add(s)
    s.on('error', () => {})
    s.on('close', () => sockets.delete(s))
    s.write('Time [s];Load [kN];Tip [mm]\n')
  })
  await new Promise<void>(resolve => listener.listen(0, '127.0.0.1', resolve))
  const { port } = listener.address() as { port: number }
  return {
    port,
    send: text => sockets.forEach(s => s.write(text)),
    hangUp: () => sockets.forEach(s => s.destroy()),
    close: () =>
      new Promise(resolve => {
        sockets.forEach(s => s.destroy())
        listener.close(() => resolve())
      }),
  }
}

const setUp = (where: StreamSetUp['where']): StreamSetUp => ({
  where,
  delimiter: ';',
  names: ['Time [s]', 'Load [kN]', 'Tip [mm]'],
  channels: {
    t: { column: 'Time [s]', unit: 's' },
    load: { column: 'Load [kN]', unit: 'kN' },
    deflection: { column: 'Tip [mm]', unit: 'mm' },
  },
})
const line = (i: number, load: number, tip: number) => `${(i / 10).toFixed(1).replace('.', ',')};${load};${tip}\n`

describe('a logger’s live stream', () => {
  it(
    'is followed up the ladder; garbage, stamps that come again, gaps and a line that breaks are said, and ' +
      'nothing else is lost',
    async () => {
      const { database } = server
      const arm = await armWithPlan(database)
      testId = arm.testId
      await savePlan(database, BY, testId, {
        ...arm.plan,
        rungs: [
          { target: { value: 0, unit: 'kN' }, hold: { value: 1, unit: 's' } },
          { target: { value: 1, unit: 'kN' }, hold: { value: 30, unit: 's' } },
        ],
        watch: [{ kind: 'limit', role: 'load', value: { value: 1.5, unit: 'kN' }, action: 'abort' }],
      })
      await makeReady(database, testId)
      const l = await logger()
      try {
        expect(
          (
            await refused(
              new RunManager(database).start(BY, testId, {
                source: 'stream',
                setUp: {
                  ...setUp({ kind: 'tcp', host: '127.0.0.1', port: l.port }),
                  channels: { t: { column: 'Time [s]' } },
                },
              }),
            )
          ).place.path,
        ).toBe('channels.load')
        const { manager, runId, frames, now } = await begin({
          source: 'stream',
          setUp: setUp({ kind: 'tcp', host: '127.0.0.1', port: l.port }),
        })
        let i = 0
        const rows = async (n: number, load: number, tip = load * 25) => {
          for (let k = 0; k < n; k++) {
            l.send(line(i++, load, tip))
            await new Promise(resolve => setTimeout(resolve, 20))
          }
        }
        await until(async () => (l.send(line(i++, 0.02, 1)), (now().latest['load'] ?? null) !== null))
        await rows(12, 0.02, 1)
        expect(frames.at(-1)!.state).toMatchObject({ rung: 1, phase: 'ramp' })
        l.send('ERR overflow\n??\n')
        l.send(line(i - 1, 9, 9))
        i += 20
        await rows(8, 1.02)
        await until(() => frames.at(-1)!.state.phase === 'hold')
        // What the console shows has its zero off.
        expect(now().latest['load']).toBeCloseTo(1000, 6)
        // Somebody leans on it: a load that no rung plans is written down with its size, and the ladder stands.
        await rows(16, 1.32)
        await until(() => frames.at(-1)!.state.phase === 'paused')
        expect((await until(async () => (await eventsOf(runId)).find(e => e.kind === 'deviation')))!.value).toBeCloseTo(
          300,
          0,
        )
        say(manager, runId, 'resume')
        await rows(4, 1.02)
        l.hangUp()
        await until(() => now().source === 'lost')
        expect(frames.at(-1)!.state.phase).toBe('paused')
        await until(async () => (l.send(line(i++, 1.02, 25.5)), now().source === 'there'), 5)
        say(manager, runId, 'resume')
        l.send(line(i++, 1.6, 41))
        await until(() => frames.at(-1)!.state.phase === 'unloading')
        const watched = (await until(async () => (await eventsOf(runId)).find(e => e.kind === 'watch')))!
        expect(Number(/\(([\d.]+) ms after its sample\)/.exec(watched.note)![1])).toBeLessThan(100)
        // It ends when the load is read to be off, not before.
        await rows(30, 0.02, 1)
        i += 20
        await until(async () => (l.send(line((i += 5), 0.02, 1)), (await status(runId)).status === 'closed'), 20)
        const page = await testPage(database, testId)
        expect(page.runs[0]).toMatchObject({ end: 'aborted', source: 'stream' })
        expect(page.runs[0]!.events.map(e => e.kind)).toEqual(
          expect.arrayContaining([
            'garbage',
            'repeated-stamp',
            'gap',
            'rung reached',
            'stream lost',
            'hold',
            'stream back',
            'resume',
            'watch',
            'abort',
          ]),
        )
        const { columns } = await readDataset(database.read, page.datasets[0]!.id)
        expect(Array.from(columns['load']!).every(v => [20, 1020, 1320, 1600].some(x => Math.abs(v - x) < 1e-6))).toBe(
          true,
        )
        expect(Array.from(columns['t']!).every((t, k, all) => k === 0 || t > all[k - 1]!)).toBe(true)
      } finally {
        await l.close()
      }
    },
  )

  it('of cells whose sum is the load climbs by it, is watched by it, and becomes a record that has it', async () => {
    const { database } = server
    const arm = await armWithPlan(database)
    testId = arm.testId
    const cell = (n: number) => ({ role: `cell${n}`, label: `Cell ${n}`, kind: 'force', sensorId: null })
    const sum = { role: 'load', label: 'Load', kind: 'force', sensorId: null, expression: 'cell1 + cell2' }
    const { channels } = arm.plan as { channels: { role: string }[] }
    await savePlan(database, BY, testId, {
      ...arm.plan,
      channels: [sum, cell(1), cell(2), ...channels.filter(c => c.role !== 'load')],
      rungs: [
        { target: { value: 0, unit: 'kN' }, hold: { value: 1, unit: 's' } },
        { target: { value: 1, unit: 'kN' }, hold: { value: 30, unit: 's' } },
      ],
      watch: [{ kind: 'limit', role: 'load', value: { value: 1.5, unit: 'kN' }, action: 'abort' }],
    })
    await declareOwn(database, BY, arm.articleId, [
      { name: 'Tip at 0.6 kN', channel: 'deflection', at: { load: { value: 0.6, unit: 'kN' } }, kind: 'length' },
      { name: 'Tip, largest', expression: 'deflection / 1', at: 'largest', kind: 'length' },
    ])
    const entered = { value: 30, unit: 'mm' }
    await arm.add('limit', [
      { articleId: arm.articleId, quantity: 'Tip, largest', name: 'Clearance', comparator: 'atMost', entered },
    ])
    await makeReady(database, testId)
    const folder = mkdtempSync(join(tmpdir(), 'hypomet-cells-'))
    const path = join(folder, 'cells.csv')
    writeFileSync(path, 'Time [s];A [kN];B [kN];Tip [mm]\n')
    const { frames, now, runId } = await begin({
      source: 'stream',
      setUp: {
        where: { kind: 'file', path },
        delimiter: ';',
        names: ['Time [s]', 'A [kN]', 'B [kN]', 'Tip [mm]'],
        channels: {
          t: { column: 'Time [s]', unit: 's' },
          cell1: { column: 'A [kN]', unit: 'kN' },
          cell2: { column: 'B [kN]', unit: 'kN' },
          deflection: { column: 'Tip [mm]', unit: 'mm' },
        },
      },
    })
    await until(() => frames.length > 3)
    let i = 0
    const row = (a: number, b: number) => appendFileSync(path, `${i++ / 10};${a};${b};${25 * (a + b)}\n`)
    await until(() => (row(0.02, 0.03), (now().latest['load'] ?? null) !== null))
    for (let k = 0; k < 12; k++) row(0.02, 0.03)
    await until(() => frames.at(-1)!.state.rung === 1)
    await until(() => (row(0.62, 0.43), frames.at(-1)!.state.phase === 'hold'))
    // Half a meganewton's worth of names: the zero of the sum is off, 50 N.
    expect(now().latest['load']).toBeCloseTo(1000, 6)
    expect(now().latest['cell1']).toBeCloseTo(600, 6)
    // 25 mm a kilonewton: the load goes from 0 to 1 kN in one row, and the tip is read straight between.
    expect(now().own).toMatchObject([
      { name: 'Tip at 0.6 kN', limit: null },
      { name: 'Tip, largest', limit: { name: 'Clearance', value: 0.03, isBroken: false } },
    ])
    expect(now().own.map(o => o.value)).toEqual([expect.closeTo(0.015, 9), expect.closeTo(0.025, 9)])
    // Neither cell is beyond what is watched; their sum is.
    row(0.92, 0.73)
    await until(() => frames.at(-1)!.state.phase === 'unloading')
    const watched = await until(async () => (await eventsOf(runId)).find(e => e.kind === 'watch'))
    expect(watched).toMatchObject({ role: 'load', note: expect.stringMatching(/^Load reads 1.60\skN/) as string })
    const passed = await until(async () => (await eventsOf(runId)).find(e => e.kind === 'limit passed'))
    expect(passed!.note).toMatch(/^Tip, largest is 40\.00\smm, beyond the 30\.00\smm of “Clearance”$/)
    await until(() => (row(0.02, 0.03), frames.at(-1)!.closed), 20)
    rmSync(folder, { recursive: true })
    const { datasetId } = await status(runId)
    const stored = await database.read.select().from(channel).where(eq(channel.datasetId, datasetId))
    expect(stored.map(c => c.role).toSorted()).toEqual(['cell1', 'cell2', 'deflection', 't'])
    expect(await server.run('planned', { datasetId })).toHaveLength(1)
    expect(await server.run('planned', { datasetId })).toEqual([])
    const { columns, units } = await readDataset(database.read, datasetId)
    expect(units['load']).toBe('N')
    expect(Array.from(columns['load']!, (v, k) => v - columns['cell1']![k]! - columns['cell2']![k]!)).toEqual(
      Array(columns['t']!.length).fill(0),
    )
  })

  it('comes from a file that grows as well; what stood there before is past', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'hypomet-stream-'))
    const path = join(folder, 'logger.csv')
    writeFileSync(path, `Time [s];Load [kN];Tip [mm]\n${line(0, 5, 5)}${line(1, 5, 5)}`)
    const where = { kind: 'file' as const, path }
    expect(new TextDecoder().decode(await lookAtStream(where))).toContain('Load [kN]')
    const { frames, now, end, manager, runId } = await begin({ source: 'stream', setUp: setUp(where) })
    await until(() => frames.length > 3)
    appendFileSync(path, line(2, 0.01, 1) + line(3, 0.01, 1).slice(0, 6))
    await until(() => now().latest['load'] !== null)
    appendFileSync(path, line(3, 0.01, 1).slice(6))
    await until(
      async () => (await recordedSoFar(server.database.read, (await status(runId)).datasetId))['load']!.length === 2,
    )
    expect(now().latest['load']).toBeCloseTo(0, 6)
    say(manager, runId, 'abort')
    await until(() => frames.at(-1)!.state.phase === 'unloading')
    let i = 200
    await until(
      async () => (appendFileSync(path, line((i += 10), 0.01, 1)), (await status(runId)).status === 'closed'),
      20,
    )
    rmSync(folder, { recursive: true })
    void end
  })

  it('that says nothing, or is not there, is refused in words', async () => {
    expect((await refused(lookAtStream({ kind: 'file', path: '/nowhere/at/all.csv' }))).code).toBe('stream-silent')
    expect((await refused(lookAtStream({ kind: 'tcp', host: '127.0.0.1', port: 1 }))).message).toContain(
      'Nothing answers',
    )
  })
})

describe('a crew that reads and shouts', () => {
  it(
    'makes the same record: a rung is reached when it is read, a reading stands until the next, and it reduces ' +
      'with its uncertainty',
    async () => {
      const { database } = server
      const arm = await armWithPlan(database)
      testId = arm.testId
      const load = [0, 0.8, 1.6, 3.2, 0]
      await savePlan(database, BY, testId, {
        ...arm.plan,
        minHold: { value: 1, unit: 's' },
        rungs: load.map(value => ({ target: { value, unit: 'kN' }, hold: { value: 1.6, unit: 's' } })),
      })
      await makeReady(database, testId)
      const { manager, runId, frames } = await begin({ source: 'crew' })
      say(manager, runId, 'read', { readings: { deflection: 0.0004, strainRoot: 0 } })
      for (const [k, kN] of load.entries()) {
        if (k === 0) continue
        await until(() => frames.at(-1)!.state.rung === k && frames.at(-1)!.state.phase === 'ramp', 20)
        say(manager, runId, 'read', { readings: { deflection: 0.0004 + kN * 1000 * 2.6e-5, strainRoot: kN * 4e-4 } })
      }
      await until(async () => (await status(runId)).status === 'closed', 20)
      const calls = (await eventsOf(runId)).filter(e => e.kind === 'call-out')
      expect(calls.map(c => [c.by, c.target, c.note])).toEqual(load.map(kN => [BY, kN * 1000, 'read by hand']))
      const kept = await reduceAndKeep(server, testId, {
        zeroStart: [0, 1],
        zeroEnd: undefined,
        designLoad: { value: 3.2, unit: 'kN' },
        minHold: { value: 1, unit: 's' },
        holdTolerance: { value: 25, unit: 'N' },
        outcome: 'no-failure',
      })
      const { output } = kept
      expect(output.results['deflectionAtDesign']).toMatchObject({
        value: expect.closeTo(3200 * 2.6e-5, 9) as number,
        k: expect.closeTo(2, 3) as number,
      })
      expect(output.results['deflectionAtDesign']!.u).toBeGreaterThan(0)
      expect(output.results['stiffness']!.value).toBeCloseTo(1 / 2.6e-5, 0)
    },
  )

  it('a rig that reads by itself takes no readings by hand', async () => {
    const { manager, runId, end } = await begin({ source: 'rig', pace: 20, seed: 2 })
    expect(() => say(manager, runId, 'read', { readings: { deflection: 1 } })).toThrow(
      expect.objectContaining({ code: 'not-by-hand' }) as Error,
    )
    await end()
  })
})

describe('the recorder', () => {
  const batch = (datasetId: number, channelIds: number[], runId: number, start: number, n: number): Batch => ({
    runId,
    testId,
    controls: BY,
    events: [],
    state: { t: start + n } as Batch['state'],
    blocks: [
      {
        datasetId,
        channelIds,
        start,
        count: n,
        columns: channelIds.map((_, c) => Float64Array.from({ length: n }, (_, i) => 1000 * c + start + i)),
      },
    ],
  })

  it(
    'folds blocks into chunks as they come; broken off anywhere, and told a block twice, it has each ' + 'sample once',
    async () => {
      const { database } = server
      const { manager, runId } = await begin({ source: 'rig', pace: 1, seed: 2 })
      await until(async () => (await database.read.select({ n: count() }).from(runBlock))[0]!.n > 0)
      await manager.stopAll()
      // A record of 40 channels beside it, at a rate that fills chunks.
      const [made] = await database.write(db =>
        db
          .insert(dataset)
          .values({ testId, source: 'rig', name: 'wide', status: 'recording', warnings: [], createdAt: '' })
          .returning(),
      )
      const ids = await database.write(async db =>
        Promise.all(
          ['t', ...Array.from({ length: 40 }, (_, i) => `c${i}`)].map(
            async role =>
              (await db.insert(channel).values({ datasetId: made!.id, role, unit: '1' }).returning())[0]!.id,
          ),
        ),
      )
      let recorder = new StoreRecorder(change => database.write(change))
      const whole = async () => {
        const soFar = await recordedSoFar(database.read, made!.id)
        return ['t', 'c0', 'c39'].map((role, k) => {
          const v = soFar[role]!
          return v.every((x, i) => x === 1000 * [0, 1, 40][k]! + i) ? v.length : -1
        })
      }
      for (let start = 0; start < 45_000; start += 1500) {
        await recorder.store(batch(made!.id, ids, runId, start, 1500))
        // Said again, as after an answer that was lost.
        if (start === 6000) await recorder.store(batch(made!.id, ids, runId, start, 1500))
        if (start % 7500 === 0) recorder = new StoreRecorder(change => database.write(change))
        expect(await whole()).toEqual([start + 1500, start + 1500, start + 1500])
      }
      const folded = (await database.read.select({ n: count() }).from(chunk).where(eq(chunk.channelId, ids[40]!)))[0]!.n
      expect(folded).toBeGreaterThanOrEqual(1)
      await database.write(db => db.update(run).set({ datasetId: made!.id }).where(eq(run.id, runId)))
      await recorder.close(runId, null)
      expect(
        (await database.read.select({ n: count() }).from(runBlock).where(eq(runBlock.datasetId, made!.id)))[0]!.n,
      ).toBe(0)
      expect(await whole()).toEqual([45_000, 45_000, 45_000])
      expect((await database.read.select().from(channel).where(eq(channel.id, ids[40]!)))[0]).toMatchObject({
        min: 40_000,
        max: 40_000 + 44_999,
        gaps: 0,
      })
    },
  )

  it('a full disk holds the ladder and says so; what was read meanwhile is stored when there is room', async () => {
    const { database } = server
    const { manager, runId, frames, now, end } = await begin({ source: 'rig', pace: 20, seed: 2 })
    await until(() => frames.at(-1)!.state.t > 10)
    const pages = Number((await database.client.execute('PRAGMA page_count')).rows[0]![0])
    await database.client.execute(`PRAGMA max_page_count=${pages}`)
    await until(() => now().recorder.problem !== '', 60)
    expect(now().recorder).toMatchObject({ problem: 'The disk is full' })
    expect(frames.at(-1)!.state.phase).toBe('paused')
    const waiting = now().recorder.waiting
    await until(() => now().recorder.waiting > waiting)
    await database.client.execute('PRAGMA max_page_count=1073741823')
    await until(() => now().recorder.problem === '' && now().recorder.behind < 0.6)
    expect(now().recorder.stored).toBeGreaterThan(0)
    await end()
    expect((await eventsOf(runId)).filter(e => e.kind === 'recorder').map(e => e.note)).toEqual([
      expect.stringContaining('ladder held'),
      'storing again; nothing was lost',
    ])
    const { columns } = await readDataset(database.read, (await status(runId)).datasetId)
    // Every tenth of a second of the rig's clock is there.
    expect(Array.from(columns['t']!).every((t, i) => Math.abs(t - i / 10) < 1e-9)).toBe(true)
    void manager
  })
})

describe('channels of other rates', () => {
  it('are records of their own on the run’s clock; one that got no sample is not kept', async () => {
    const { database } = server
    const arm = await armWithPlan(database)
    testId = arm.testId
    await savePlan(database, BY, testId, {
      ...arm.plan,
      channels: [
        ...arm.plan.channels,
        { role: 'air', label: 'Air', kind: 'temperature', rateClass: 'slow', sensorId: null },
        { role: 'knock', label: 'Knock', kind: 'acceleration', rateClass: 'vibration', sensorId: null },
      ],
    })
    await makeReady(database, testId)
    const { runId, frames, now, end } = await begin({ source: 'rig', pace: 1, seed: 2 })
    await until(() => frames.at(-1)!.state.t > 3)
    expect(now().latest['air']).toBeCloseTo(293, 0)
    await end()
    const records = await database.read.select().from(dataset).where(eq(dataset.testId, testId))
    const main = records.find(r => r.id === 0) ?? records.find(r => r.joinsId === null)!
    const rate = (rows: number) => Math.round(rows / (main.rows / 10))
    expect(records.filter(r => r.joinsId === main.id).map(r => [rate(r.rows), r.status])).toEqual([
      [1, 'ready'],
      [5000, 'ready'],
    ])
    expect((await status(runId)).status).toBe('closed')
  })
})

describe('nonsense at the start', () => {
  it('is answered in words, at its place', async () => {
    const said = (body: object) => startBody.safeParse(body).error!.issues.map(i => `${i.path.join('.')}: ${i.message}`)
    const stream = (where: object) =>
      said({ source: 'stream', setUp: { where, channels: {}, delimiter: ',', names: ['t'] } })
    expect(stream({ kind: 'tcp', host: 'nonsense', port: null })).toEqual([
      expect.stringMatching(/^setUp\.where\.port: A port is a whole number/),
    ])
    expect(stream({ kind: 'file', path: '' })).toEqual(['setUp.where.path: Which file? Give its path on this machine.'])
    expect(said({ source: 'rig', pace: 5, seed: '' })).toEqual(['seed: A seed is a whole number.'])
    expect(said({ source: 'rig', pace: 5, seed: 1, faults: [{ kind: 'slips', role: 'load', at: '' }] })).toEqual([
      expect.stringMatching(/^faults\.0\.at: A surprise comes/),
    ])
    expect(
      (
        await refused(
          new RunManager(server.database).rehearse(BY, testId, {
            pace: 5,
            seed: 1,
            faults: [{ kind: 'slips', role: 'nose', label: '', at: 3 }],
          }),
        )
      ).place.path,
    ).toBe('faults.0.role')
  })
})
