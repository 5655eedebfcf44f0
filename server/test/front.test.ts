import { EventEmitter, once } from 'node:events'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import type { AddressInfo, Server } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import WebSocket from 'ws'
import { HypometError } from '@hypomet/core'
import { createFront } from '../front/front'
import { Pages } from '../front/pages'
import { talk, type Line } from '../front/rpc'
import { LiveRigs } from '../live/rigs'
import type { LiveFrame } from '../live/frame'
import { RunManager } from '../live/runManager'
import { BY, readyServer, refused, type TestServer } from './campaign'
import { until } from './until'

/** Pages that say what they were asked, sit still, or fall over. */
const PAGES = `
import { createServer } from 'node:http'
createServer(async (req, res) => {
  if (req.url === '/die') process.exit(3)
  if (req.url === '/full') process.abort()
  if (req.url === '/busy') for (const until = Date.now() + 1500; Date.now() < until; );
  let bytes = 0
  for await (const piece of req) bytes += piece.length
  res.setHeader('x-from', 'pages')
  res.end(JSON.stringify({ url: req.url, bytes, pid: process.pid, flags: process.execArgv }))
}).listen(process.env.NITRO_UNIX_SOCKET)
process.on('disconnect', () => process.exit(0))
`

let folder: string
let pages: Pages
let rigs: LiveRigs
let front: Server
let server: TestServer
let testId: number
let base: string
let ended: number[]
beforeEach(async () => {
  ;({ server, testId } = await readyServer())
  folder = mkdtempSync(join(tmpdir(), 'hypomet-front-'))
  writeFileSync(join(folder, 'pages.mjs'), PAGES)
  ended = []
  pages = new Pages(join(folder, 'pages.mjs'), {}, code => ended.push(code))
  const recorder = { store: async () => undefined, close: async () => undefined }
  rigs = new LiveRigs(recorder, pages.keeper)
  front = createFront(rigs, pages)
  front.listen(0, '127.0.0.1')
  await once(front, 'listening')
  base = `http://127.0.0.1:${(front.address() as AddressInfo).port}`
  pages.begin()
})
afterEach(async () => {
  front.close()
  await rigs.stopAll()
  await pages.stop()
  server.close()
  rmSync(folder, { recursive: true })
})

const asked = async (path: string, init: RequestInit = {}) => {
  const r = await fetch(base + path, init)
  return { status: r.status, from: r.headers.get('x-from'), said: (await r.json()) as Record<string, unknown> }
}
const command = (runId: number, body: object) =>
  asked(`/api/runs/${runId}/command`, {
    method: 'POST',
    headers: { 'x-hypomet-person': 'Ada', 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })
const run = () => new RunManager(server.database, rigs).start(BY, testId, { source: 'rig', pace: 1, seed: 4 })

describe('the front', () => {
  it('ends with pages that end before they have opened the database, connections or none', async () => {
    expect((await asked('/')).from).toBe('pages')
    await asked('/die').catch(() => undefined)
    await until(() => ended.length > 0)
    expect(ended).toEqual([3])
  })

  it('hands on what does not concern runs, of any length, and answers for runs itself', async () => {
    expect((await asked('/tests/1/run?x=1')).said).toMatchObject({ url: '/tests/1/run?x=1', bytes: 0 })
    const body = Buffer.alloc(5_000_000, 'x')
    expect((await asked('/api/tests/1/files', { method: 'POST', body })).said['bytes']).toBe(body.length)
    expect(await asked('/api/runs/going')).toMatchObject({ status: 200, from: null, said: [] })
    expect((await command(7, { command: 'abort' })).said).toMatchObject({ data: { code: 'not-running' } })
    expect((await command(7, { command: 'sing' })).status).toBe(422)
    expect((await asked('/api/runs/7/command', { method: 'POST', body: '{' })).said['data']).toMatchObject({
      code: 'not-json',
    })
  })

  it('a page elsewhere that points its name at this machine gets nothing, by either door', async () => {
    expect((await asked('/', { headers: { origin: 'http://elsewhere.example' } })).status).toBe(403)
    const socket = new WebSocket(`${base.replace('http', 'ws')}/_live?run=1`, { origin: 'http://elsewhere.example' })
    const [e] = (await once(socket, 'error')) as [Error]
    expect(e.message).toContain('403')
  })

  it('hears an abort at once while the pages are busy, and after they have fallen over', async () => {
    const runId = await run()
    const frames: LiveFrame[] = []
    const socket = new WebSocket(`${base.replace('http', 'ws')}/_live?run=${runId}`)
    socket.on('message', m => frames.push(JSON.parse(String(m)) as LiveFrame))
    await once(socket, 'open')
    const { said: before } = await asked('/')
    pages.opened()
    const busy = asked('/busy')
    const order: string[] = []
    void busy.then(() => order.push('busy'))
    await command(runId, { command: 'mark', note: 'while busy' }).then(() => order.push('mark'))
    await busy
    expect(order).toEqual(['mark', 'busy'])
    await fetch(`${base}/die`).catch(() => undefined)
    expect(await command(runId, { command: 'abort' })).toMatchObject({ status: 200, said: { ok: true } })
    await until(async () => frames.flatMap(f => f.events).some(e => e.kind === 'abort'))
    expect((await asked('/')).said['pid']).not.toBe(before['pid'])
    socket.close()
  })

  it('keeps pages below a ceiling of memory, a higher one where theirs was full', async () => {
    const ceiling = async () =>
      ((await asked('/')).said['flags'] as string[]).find(f => f.startsWith('--max-old-space-size='))
    expect(await ceiling()).toBe('--max-old-space-size=512')
    pages.opened()
    await fetch(`${base}/full`).catch(() => undefined)
    await until(async () => (await ceiling().catch(() => null)) === '--max-old-space-size=1024')
    await fetch(`${base}/die`).catch(() => undefined)
    await until(async () => (await ceiling().catch(() => null)) === '--max-old-space-size=1024')
  })

  it('a socket for a run that is over is told so', async () => {
    const socket = new WebSocket(`${base.replace('http', 'ws')}/_live?run=99`)
    const [m] = (await once(socket, 'message')) as [Buffer]
    expect(JSON.parse(String(m))).toEqual({ over: true })
    socket.close()
  })
})

describe('two processes', () => {
  const lines = (): [Line, Line, () => void] => {
    const [a, b] = [new EventEmitter(), new EventEmitter()]
    const end = (mine: EventEmitter, theirs: EventEmitter): Line => ({
      send: m => void theirs.emit('message', structuredClone(m)),
      onMessage: hear => mine.on('message', hear),
      onLost: lost => mine.on('lost', lost),
    })
    return [end(a, b), end(b, a), () => (a.emit('lost'), void b.emit('lost'))]
  }

  it('answers, refusals with their place, and no answer when the line is lost', async () => {
    const [here, there, cut] = lines()
    const theirs = {
      double: (n: number) => 2 * n,
      refuse: () => {
        throw new HypometError('no-controls', 'Not yours.', { path: 'x' })
      },
      wait: () => new Promise<void>(() => undefined),
    }
    talk(there, theirs)
    const ask = talk<typeof theirs, object>(here, {})
    expect(await ask.double(21)).toBe(42)
    expect(await refused(ask.refuse() as Promise<unknown>)).toMatchObject({ code: 'no-controls', place: { path: 'x' } })
    const waiting = ask.wait()
    cut()
    await expect(waiting).rejects.toThrow('the other process is gone')
    await expect(ask.double(1)).rejects.toThrow('the other process is gone')
  })
})
