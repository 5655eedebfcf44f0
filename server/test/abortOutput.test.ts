import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { localDay } from '@hypomet/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { coilRequest, fire } from '../live/abortOutput'
import { AbortOutputs } from '../live/abortOutputs'
import { RunManager, type StartOf } from '../live/runManager'
import type { LiveFrame } from '../live/frame'
import { tryAbortOutput } from '../live/tryAbortOutput'
import { savePlan } from '../db/tests/plans'
import { readyItemsOf, markReady } from '../db/tests/readiness'
import { armWithPlan, BY, makeReady, refused, type TestServer } from './campaign'
import { temporaryDatabase } from './database'
import { until } from './until'

/** Something at the rig that listens: what it heard, and what it answers to it. */
class Device {
  heard = Buffer.alloc(0)
  private readonly sockets = new Set<Socket>()
  private constructor(private readonly server: Server) {}

  static async open(answer: (piece: Buffer) => Buffer | null): Promise<Device> {
    const server = createServer()
    const device = new Device(server)
    server.on('connection', s => {
      device.sockets.add(s)
      s.on('error', () => {})
      s.on('data', (piece: Buffer) => {
        device.heard = Buffer.concat([device.heard, piece])
        const said = answer(piece)
        if (said) s.write(said)
      })
    })
    await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
    return device
  }

  get port(): number {
    return (this.server.address() as AddressInfo).port
  }

  close(): void {
    this.sockets.forEach(s => s.destroy())
    this.server.close()
  }
}

const echo = (piece: Buffer) => piece
const coil = (port: number) => ({ kind: 'coil' as const, host: '127.0.0.1', port, unit: 1, coil: 3, to: 'on' as const })
const line = (port: number) => ({ kind: 'line' as const, host: '127.0.0.1', port, text: 'UNLOAD' })

let device: Device
afterEach(() => device.close())

describe('an output of the abort', () => {
  it('asks a relay as the protocol writes it, and counts its echo alone', async () => {
    // Specification V1.1b3, 6.5: coil 173 of unit 17 on; the header's length counts the unit and the five bytes.
    expect(coilRequest(0x11, 0xac, true, 1).toString('hex')).toBe('000100000006110500acff00')
    device = await Device.open(echo)
    expect(await fire(coil(device.port))).toBeLessThan(500)
    expect(device.heard.toString('hex')).toBe('00010000000601050003ff00')
    await fire(coil(device.port), 'off')
    expect(device.heard.subarray(12).toString('hex')).toBe('000100000006010500030000')
  })

  it('a relay that refuses, answers otherwise or is silent has not done it; nor one that is not there', async () => {
    const words = async () => (await refused(fire(coil(device.port)))).message
    device = await Device.open(() => Buffer.from('000100000003018502', 'hex'))
    expect(await words()).toMatch(/^Relay at .* it refused, with exception 2\.$/)
    const { port } = device
    device.close()
    expect((await refused(fire(line(port)))).code).toBe('output-silent')
    device = await Device.open(() => coilRequest(1, 4, true))
    expect(await words()).toMatch(/its answer is not that/)
    device.close()
    device = await Device.open(() => null)
    expect(await words()).toMatch(/nothing answered within 500 ms/)
  })

  it('is tried until it answers; each is said, the first silence at once', async () => {
    device = await Device.open(() => null)
    const { port } = device
    device.close()
    const said: [boolean, string][] = []
    new AbortOutputs([line(port), { kind: 'voice', sentence: 'Down.' }], (isTaken, words) =>
      said.push([isTaken, words]),
    ).fire()
    await until(async () => said.length === 1)
    expect(said[0]).toEqual([
      false,
      expect.stringMatching(/nothing answers there\. Unload by hand; it is tried again\.$/),
    ])
    const late = createServer(s => s.resume())
    await new Promise<void>(resolve => late.listen(port, '127.0.0.1', resolve))
    await until(async () => said.length === 2)
    expect(said[1]).toEqual([true, expect.stringMatching(/^line “UNLOAD” .* at try \d+$/)])
    late.close()
  })
})

describe('in a run', () => {
  let server: TestServer
  let testId: number
  let plan: Record<string, unknown>
  const ask = async (change: object) => {
    ;({ plan, testId } = await armWithPlan(server.database))
    await savePlan(server.database, BY, testId, { ...plan, ...change })
  }
  beforeEach(async () => {
    server = await temporaryDatabase()
    device = await Device.open(echo)
  })
  afterEach(() => server.close())

  it('is ticked in Ready by being taken alone, set back, and tried anew where it is changed', async () => {
    await ask({ onAbort: [coil(device.port)] })
    const item = async () =>
      (await readyItemsOf(server.database.read, testId, localDay())).find(i => i.key.startsWith('abort:'))!
    const { key } = await item()
    expect((await refused(markReady(server.database, BY, testId, { key, state: 'done', reason: '' }))).code).toBe(
      'needs-override',
    )
    const { words } = await tryAbortOutput(server.database, BY, testId, 0)
    expect(words).toMatch(/^taken after \d+ ms; set back after 1 s$/)
    expect(await item()).toMatchObject({ state: 'done', by: BY, reason: words })
    expect(device.heard.toString('hex')).toBe('00010000000601050003ff00000100000006010500030000')
    await savePlan(server.database, BY, testId, { ...plan, onAbort: [{ ...coil(device.port), coil: 4 }] })
    expect((await item()).state).toBe('open')
  })
  it('goes off once a run, by whoever aborts; a rehearsal reaches nothing outside', async () => {
    await ask({
      onAbort: [line(device.port)],
      watch: [{ kind: 'limit', role: 'deflection', value: { value: 5, unit: 'mm' }, action: 'abort' }],
    })
    const manager = new RunManager(server.database)
    const rehearsal = await manager.rehearse(BY, testId, { pace: 20, seed: 4, faults: [] })
    manager.command(rehearsal, BY, { command: 'abort', note: '', value: null, to: '' })
    await until(async () => manager.going().length === 0, 40)
    expect(device.heard).toHaveLength(0)
    await makeReady(server.database, testId)
    const from: StartOf = { source: 'rig', pace: 20, seed: 4 }
    const runId = await manager.start(BY, testId, from)
    const frames: LiveFrame[] = []
    manager.join(runId, 'Eve', f => frames.push(f))
    const kinds = () => frames.flatMap(f => f.events).map(e => e.kind)
    await until(async () => kinds().includes('abort output'), 40)
    expect(kinds().indexOf('abort')).toBeLessThan(kinds().indexOf('abort output'))
    manager.command(runId, BY, { command: 'abort', note: '', value: null, to: '' })
    await until(async () => frames.some(f => f.closed), 60)
    expect(device.heard.toString()).toBe('UNLOAD\n')
  })
})
