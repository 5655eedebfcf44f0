import { open, realpath } from 'node:fs/promises'
import { resolve, sep } from 'node:path'
import { HypometError, siUnit, tcpAddress, unitFor, type Kind, type Plan, type StreamLayout } from '@hypomet/core'
import { connect } from 'node:net'
import * as z from 'zod'
import { converted } from '../db/records/packedChunk'
import { type Conversion } from '../db/records/conversion'
import type { StreamSetUp, StreamWhere } from '../db/schema'
import type { StreamSources } from '../environment'
import { isLoopback } from '../utils/loopback'
import { checkImportChannels, importChannels, type ImportChannel } from '../ingest/reading'

export const streamWhere = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('tcp'),
    ...tcpAddress,
  }),
  z.object({
    kind: z.literal('file'),
    path: z.string().min(1, 'Which file? Give its path on this machine.').max(1000, 'A path has 1000 letters at most.'),
  }),
])

export const streamSetUp = z.object({
  where: streamWhere,
  channels: importChannels,
  delimiter: z.string().max(1),
  numbers: z.enum(['point', 'comma']).optional(),
  names: z.array(z.string()).min(1).max(5000),
})

const LOOK_MS = 2500
const LOOK_BYTES = 64 * 1024
const LOOK_LINES = 30

/**
 * The first lines of a stream, so that its columns can be understood. @throws HypometError `stream-silent` at `where`
 */
export function lookAtStream(where: StreamWhere): Promise<Uint8Array> {
  return where.kind === 'tcp' ? lookOverTcp(where) : headOfFile(where.path)
}

/**
 * A stream is read from places that whoever started Hypomet named: from no other file of this machine, from no other
 * machine. @throws HypometError `stream-elsewhere` at `where`
 */
export async function assertAllowed(where: StreamWhere, { folders, hosts }: StreamSources): Promise<void> {
  if (where.kind === 'tcp') {
    if (isLoopback(where.host) || hosts.includes(where.host.toLowerCase())) return
    throw new HypometError(
      'stream-elsewhere',
      `${where.host} is not among the machines whose loggers are listened to: this one` +
        `${hosts.map(h => `, ${h}`).join('')}. HYPOMET_STREAM_HOSTS names them at the start.`,
      { path: 'where' },
    )
  }
  const file = await realpath(where.path).catch(() => resolve(where.path))
  const within = await Promise.all(folders.map(f => realpath(f).catch(() => f)))
  if (within.some(f => file.startsWith(f + sep))) return
  throw new HypometError(
    'stream-elsewhere',
    `A logger’s file is read below ${folders.join(' or ')}. HYPOMET_STREAM_FOLDERS names other folders at the start.`,
    { path: 'where' },
  )
}

const silent = (message: string): HypometError => new HypometError('stream-silent', message, { path: 'where' })

function lookOverTcp({ host, port }: { host: string; port: number }): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const pieces: Buffer[] = []
    const socket = connect(port, host)
    const end = () => {
      clearTimeout(timer)
      socket.destroy()
      const all = Buffer.concat(pieces)
      // A line that has not ended yet is not looked at.
      const whole = all.subarray(0, all.lastIndexOf(10) + 1)
      if (whole.length > 0) resolve(whole)
      else reject(silent(`${host}:${port} was listened to for ${LOOK_MS / 1000} s and said no line.`))
    }
    const timer = setTimeout(end, LOOK_MS)
    socket.on('data', (d: Buffer) => {
      pieces.push(d)
      const all = Buffer.concat(pieces)
      if (all.length > LOOK_BYTES || all.filter(b => b === 10).length > LOOK_LINES) end()
    })
    socket.on('error', () => {
      clearTimeout(timer)
      reject(silent(`Nothing answers at ${host}:${port}.`))
    })
  })
}

async function headOfFile(path: string): Promise<Uint8Array> {
  try {
    const file = await open(path)
    try {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(LOOK_BYTES), 0, LOOK_BYTES, 0)
      const head = buffer.subarray(0, bytesRead)
      return head.subarray(0, bytesRead === LOOK_BYTES ? head.lastIndexOf(10) + 1 : bytesRead)
    } finally {
      await file.close()
    }
  } catch {
    throw silent(`The file “${path}” cannot be read on this machine.`)
  }
}

/**
 * How lines become samples of the plan's channels. @throws HypometError `missing-column`, `unit-dimension`,
 * `missing-channel`
 */
export function layoutOf(
  { channels, delimiter, numbers, names }: StreamSetUp,
  plan: Plan,
  needed: readonly string[],
): StreamLayout {
  checkImportChannels(channels)
  const missing = needed.find(role => !channels[role])
  if (missing)
    throw new HypometError('missing-channel', `The stream must bring “${missing}”.`, { path: `channels.${missing}` })
  const kindOf = (role: string): Kind =>
    role === 't' ? 'time' : (plan.channels.find(c => c.role === role)?.kind ?? 'ratio')
  const cell = (role: string, entry: ImportChannel) => {
    const index = names.indexOf(entry.column)
    if (index < 0)
      throw new HypometError('missing-column', `The stream has no column “${entry.column}”.`, {
        path: `channels.${role}.column`,
      })
    const conversion = conversionOf(entry, kindOf(role), role)
    return { index, toSi: (v: number) => converted(Float64Array.of(v), conversion)[0]! }
  }
  const { t, ...rest } = channels
  return {
    delimiter: delimiter === ' ' ? '\t' : (delimiter as StreamLayout['delimiter']),
    blanks: delimiter === ' ',
    numbers,
    width: names.length,
    interval: 1 / plan.rate,
    time: t ? cell('t', t) : null,
    columns: Object.entries(rest).map(([role, entry]) => ({ role, ...cell(role, entry) })),
  }
}

function conversionOf({ unit, scale = 1, offset, table }: ImportChannel, kind: Kind, role: string): Conversion {
  try {
    const { shift, multiply, divide } = unitFor(unit ?? siUnit(kind), kind)
    return { ...(table ? { table } : {}), scale, ...(offset ? { offset } : {}), shift, multiply, divide }
  } catch (e) {
    throw e instanceof HypometError ? e.at({ path: `channels.${role}.unit` }) : e
  }
}
