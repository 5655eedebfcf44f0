import { Agent, createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { Duplex } from 'node:stream'
import { HypometError, plainIssue } from '@hypomet/core'
import { createProxyServer } from 'httpxy'
import { WebSocketServer, type WebSocket } from 'ws'
import { attend, parsed } from '../live/attend'
import { commandBody } from '../live/commandBody'
import { obey, type LiveRigs } from '../live/rigs'
import { isLocalRequest } from '../utils/loopback'
import { personInHeader } from '../live/person'
import { answerOf } from '../refusal'
import { MOST_JSON, tooLong } from '../sentJson'
import type { Pages } from './pages'

const COMMAND = /^\/api\/runs\/(\d{1,15})\/command\/?$/
const MOST_BYTES = 64 * 1024
const LOCAL_ONLY = 'Hypomet answers this machine only.'

/**
 * The one door of Hypomet. What concerns runs that go on, their frames, commands and aborts, is answered here, in a
 * process that does nothing else; all the rest is handed on to the pages.
 */
export function createFront(rigs: LiveRigs, pages: Pages): Server {
  const proxy = createProxyServer({
    target: { socketPath: pages.socketPath } as never,
    // A connection each: one that is kept may be closed by the pages at the moment it is used again.
    agent: new Agent({ keepAlive: false, maxSockets: Infinity }),
  })
  // What fails on the way is answered where it was asked.
  proxy.on('error', (e, _req, res) => {
    if (res && 'writeHead' in res) refuse(res, e)
  })
  const sockets = new WebSocketServer({ noServer: true, perMessageDeflate: false, maxPayload: MOST_BYTES })
  const server = createServer((req, res) => {
    answer(req, res).catch((e: unknown) => refuse(res, e))
  })
  // An upload of any length takes as long as it takes.
  server.requestTimeout = 0
  // A caller that is kept busy for some seconds finds its connection still there.
  server.keepAliveTimeout = 65_000

  async function answer(req: IncomingMessage, res: ServerResponse): Promise<void> {
    if (!isLocal(req)) return say(res, 403, { statusCode: 403, message: LOCAL_ONLY })
    const path = pathOf(req)
    if (path === '/api/runs/going' && req.method === 'GET') return say(res, 200, rigs.going())
    const command = req.method === 'POST' ? COMMAND.exec(path) : null
    if (!command) return handOn(req, res)
    const runId = Number(command[1])
    const by = personInHeader(req.headers['x-hypomet-person'] as string | undefined)
    const body = commandBody.parse(await jsonOf(req), { error: plainIssue })
    say(res, 200, await obey(rigs, runId, by, body))
  }

  async function handOn(req: IncomingMessage, res: ServerResponse): Promise<void> {
    assertLength(req)
    await pages.there()
    await proxy.web(req, res)
  }

  server.on('upgrade', (req: IncomingMessage, socket: Duplex, head: Buffer) => {
    socket.on('error', () => socket.destroy())
    if (!isLocal(req) || pathOf(req) !== '/_live') return void socket.end('HTTP/1.1 403 Forbidden\r\n\r\n')
    sockets.handleUpgrade(req, socket, head, ws => join(rigs, ws, req))
  })
  return server
}

/** JSON says how long it is, and is no longer than any route takes. @throws HypometError `too-large` */
function assertLength({ headers, method }: IncomingMessage): void {
  if (method === 'GET' || !/json/.test(headers['content-type'] ?? '')) return
  const length = headers['content-length']
  if (length === undefined && headers['transfer-encoding'] !== undefined)
    throw new HypometError('too-large', 'JSON is sent with its length.')
  if (Number(length ?? 0) > MOST_JSON) throw tooLong(MOST_JSON)
}

function join(rigs: LiveRigs, ws: WebSocket, req: IncomingMessage): void {
  ws.on('error', () => ws.terminate())
  const joined = attend(
    rigs,
    { url: req.url ?? '', cookie: req.headers.cookie },
    {
      send: text => ws.send(text),
      close: (code, why) => ws.close(code, why),
      buffered: () => ws.bufferedAmount,
    },
  )
  if (!joined) return
  ws.on('close', joined.leave)
  ws.on('message', data => joined.hear(String(data)))
}

const isLocal = ({ socket, headers, method }: IncomingMessage): boolean =>
  isLocalRequest({
    remoteAddress: socket.remoteAddress,
    method: method ?? 'GET',
    host: headers.host,
    origin: headers.origin,
    site: headers['sec-fetch-site'] as string | undefined,
    mode: headers['sec-fetch-mode'] as string | undefined,
  })

const pathOf = (req: IncomingMessage): string => (req.url ?? '/').split('?', 1)[0]!

async function jsonOf(req: IncomingMessage): Promise<unknown> {
  const pieces: Buffer[] = []
  let bytes = 0
  for await (const piece of req as AsyncIterable<Buffer>) {
    bytes += piece.length
    if (bytes > MOST_BYTES) break
    pieces.push(piece)
  }
  const said = bytes > MOST_BYTES ? undefined : parsed(Buffer.concat(pieces).toString('utf8'))
  if (said === undefined) throw new HypometError('not-json', 'What was sent is not JSON.')
  return said
}

function say(res: ServerResponse, status: number, what: unknown): void {
  res.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' })
  res.end(JSON.stringify(what))
}

/** As a route of the pages answers it; whoever has gone meanwhile hears nothing, and it is no news. */
function refuse(res: ServerResponse, e: unknown): void {
  if (res.destroyed || res.writableEnded) return
  if (res.headersSent) return void res.destroy()
  const known = answerOf(e)
  if (known) return say(res, known.statusCode, known)
  console.error(e)
  say(res, 502, { statusCode: 502, message: 'That did not get through. Try again.' })
}
