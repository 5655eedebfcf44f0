import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createArticle, createCampaign } from '../db/campaigns/campaigns'
import { readDataset } from '../db/records/samples'
import { run, runEvent } from '../db/schema'
import { createTest } from '../db/tests/tests'
import { testPage } from '../db/tests/tests'
import type { LiveFrame } from '../live/frame'
import type { RunCommand } from '../live/rigs'
import { RunManager } from '../live/runManager'
import { BY, importBytes, makeReady, reduceAndKeep } from './campaign'
import { temporaryDatabase } from './database'
import { until } from './until'

/* A sling pulled apart at a hoist with a dial: what is called out is all there is. */

type TestServer = Awaited<ReturnType<typeof temporaryDatabase>>
const LBF = 4.4482216152605
const lbf = (value: number) => ({ value, unit: 'lbf' })
let server: TestServer
let revisionId: number

beforeAll(async () => {
  server = await temporaryDatabase()
  const { id: campaignId } = await createCampaign(server.database, BY, {
    title: 'Slings',
    purpose: '',
    due: null,
    system: 'imperial',
    rule: 'guarded',
    convention: 'margin-of-safety',
  })
  const made = await createArticle(server.database, BY, campaignId, {
    name: 'Sling',
    family: 'pull',
    revision: { label: 'A' },
  })
  revisionId = made.revision.id
})
afterAll(() => server.close())

const planned = async (title: string, own: object = {}) => {
  const { id } = await createTest(server.database, BY, revisionId, {
    title,
    plan: {
      loading: { kind: 'pull', path: [{ name: 'Sling', capacity: lbf(6000), article: true }] },
      rungs: [0, 1000, 2000, 3000].map(v => ({ target: lbf(v), hold: { value: 0.5, unit: 's' } })),
      channels: [{ role: 'force', label: 'Dial', kind: 'force' }],
      referenceStrength: lbf(5000),
      hazards: { line: { controls: ['tether', 'screen', 'distance'] } },
      ...own,
    },
  })
  await makeReady(server.database, id)
  return id
}
const GAUGE = { gaugeFullScale: lbf(10_000), gaugeAccuracy: 0.01 }
/** Expanded uncertainty of the dial. */
const U = (2 * 0.01 * 10_000 * LBF) / Math.sqrt(3)

async function crew(testId: number) {
  const { database } = server
  const manager = new RunManager(database)
  const runId = await manager.start(BY, testId, { source: 'crew' })
  const frames: LiveFrame[] = []
  manager.join(runId, 'Eve', f => frames.push(f))
  const say = (command: RunCommand['command'], more: Partial<RunCommand> = {}) =>
    manager.command(runId, BY, { command, note: '', value: null, to: '', ...more })
  const at = (rung: number, phase: string) =>
    until(() => frames.at(-1)!.state.rung === rung && frames.at(-1)!.state.phase === phase, 20)
  const call = (value: number) => say('read', { readings: { force: value * LBF } })
  const row = async () => (await database.read.select().from(run).where(eq(run.id, runId)))[0]!
  const calls = async () =>
    (await database.read.select().from(runEvent).where(eq(runEvent.runId, runId))).filter(e => e.kind === 'call-out')
  return { say, at, call, calls, row }
}

describe('loads that people call out', () => {
  it('are held against their rung; a break ends the run, and is reduced to an interval', async () => {
    const testId = await planned('To the break', GAUGE)
    const { say, at, call, calls, row } = await crew(testId)
    await at(1, 'ramp')
    call(1000)
    await at(2, 'ramp')
    call(1000)
    call(1960)
    call(1960)
    await at(3, 'ramp')
    say('broke', { mode: 'eye pulled out', place: 'upper eye', note: 'a bang' })
    await until(async () => (await row()).status === 'closed', 20)
    expect(await row()).toMatchObject({
      end: 'article broke',
      broke: { mode: 'eye pulled out', place: 'upper eye', note: 'a bang', peak: null },
    })
    expect((await calls()).map(c => c.note)).toEqual([
      'read by hand',
      expect.stringMatching(/^1000\s*lbf called out, rung is 2000\s*lbf: not reached$/),
      'read by hand',
      'read by hand',
    ])
    const { settings, output } = await reduceAndKeep(server, testId)
    const { callouts, increment } = settings as { callouts: { force: number }[]; increment: number }
    expect(callouts.map(c => c.force / LBF)).toEqual([expect.closeTo(1000, 6), expect.closeTo(1960, 6)])
    expect(increment / LBF).toBeCloseTo(1040, 6)
    const { interval } = output.results['peakForce']!.bound as { interval: [number, number] }
    expect(interval[0]).toBeCloseTo(1960 * LBF - U, 3)
    expect(interval[1]).toBeCloseTo(3000 * LBF + U, 3)
    expect((await testPage(server.database, testId)).runs[0]!.broke!.place).toBe('upper eye')
  })

  it('what nobody has read yet is no number, and never a nought', async () => {
    const channels = ['force', 'displacement'].map(role => ({
      role,
      label: role,
      kind: role === 'force' ? 'force' : 'length',
    }))
    const testId = await planned('Two dials', { channels })
    const { say, at, call, row } = await crew(testId)
    await at(1, 'ramp')
    call(1000)
    await at(2, 'ramp')
    say('read', { readings: { displacement: 0.012 } })
    say('broke', {})
    await until(async () => (await row()).status === 'closed', 20)
    const { columns } = await readDataset(server.database.read, (await row()).datasetId)
    expect(columns['force']![0]).toBe(0)
    expect(columns['displacement']![0]).toBeNaN()
    expect(new Set(columns['displacement']!.filter(v => !Number.isNaN(v)))).toEqual(new Set([0.012]))
  })

  it('with a peak that was heard end at it', async () => {
    const testId = await planned('With a peak', GAUGE)
    const { say, at, call, row } = await crew(testId)
    await at(1, 'ramp')
    call(1000)
    await at(2, 'ramp')
    say('broke', { value: 1730 * LBF })
    await until(async () => (await row()).status === 'closed', 20)
    const { output } = await reduceAndKeep(server, testId)
    const { interval } = output.results['peakForce']!.bound as { interval: [number, number] }
    expect(interval).toEqual([expect.closeTo(1000 * LBF - U, 3), expect.closeTo(1730 * LBF + U, 3)])
  })

  it('stand until the load is said to be off', async () => {
    const testId = await planned('Stopped')
    const { say, at, call, calls, row } = await crew(testId)
    await at(1, 'ramp')
    call(1000)
    await at(2, 'ramp')
    say('stop', { note: 'tea' })
    say('read', { readings: {} })
    await until(async () => (await calls()).length === 2, 20)
    expect((await calls()).at(-1)!.value).toBeCloseTo(1000 * LBF, 6)
    say('reached')
    await until(async () => (await row()).status === 'closed', 40)
    const { settings, output } = await reduceAndKeep(server, testId)
    expect(settings['outcome']).toBe('no-failure')
    expect(output.results['peakForce']).toMatchObject({ bound: 'atLeast', value: expect.closeTo(1000 * LBF, 6) })
  })

  it.each([
    ['two', '0,1000\n60,2000\n'],
    ['one', '60,2000\n'],
  ])('may be typed as %s rows', async (_, rows) => {
    const testId = await planned(`Typed ${_}`, GAUGE)
    const channels = { t: { column: 't', unit: 's' }, force: { column: 'force', unit: 'lbf' } }
    const reading = { delimiter: ',', numbers: 'point', typed: true } as const
    await importBytes(server, testId, new TextEncoder().encode(`t,force\n${rows}`), {
      channels,
      reading,
      end: 'article broke',
    })
    const { output } = await reduceAndKeep(server, testId)
    const { interval } = output.results['peakForce']!.bound as { interval: [number, number] }
    expect(interval).toEqual([expect.closeTo(2000 * LBF - U, 3), expect.closeTo(3000 * LBF + U, 3)])
  })
})
