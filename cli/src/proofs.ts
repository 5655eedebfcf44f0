import { createWriteStream, readFileSync } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { parseArgs } from 'node:util'
import { answeredError, HypometError } from '@hypomet/core'
import { baseOf, caller, jobAtEnd, unreachable } from './server'

export const PROOFS_USAGE = `\
  hypomet verify                              holds what a running Hypomet stores against what
                                              was written down
      --recompute         every kept result is worked out once more, digit by digit
      --export file.json  … and whether the trail still goes on from what an export carries
      --campaign slug     of one campaign alone; exit 3 where something was found
  hypomet backup file.tar                     the database and its originals, while everything goes on
  hypomet restore file.tar folder             into a folder of its own, once every part has been held against its digest
`

const OPTIONS = {
  recompute: { type: 'boolean' },
  campaign: { type: 'string' },
  export: { type: 'string', multiple: true },
  server: { type: 'string' },
  by: { type: 'string' },
} as const

/** As `run` answers. */
interface Done {
  exit: 0 | 3
  stdout: string
  stderr: string
}

interface Found {
  findings: { kind: string; testId: number | null; message: string }[]
}

const COMMANDS = ['verify', 'backup', 'restore'] as const
export type ProofsCommand = (typeof COMMANDS)[number]
export const isProofsCommand = (said: string | undefined): said is ProofsCommand =>
  COMMANDS.includes(said as ProofsCommand)

/** One of the commands that look after what is stored. @throws HypometError */
export async function proofs(
  command: ProofsCommand,
  rest: string[],
  say: (progress: string) => void = () => {},
): Promise<Done> {
  const { values: o, positionals } = parsed(rest)
  if (command === 'verify') {
    const call = caller(baseOf(o.server), o.by)
    const heads = (o.export ?? []).map(headIn)
    const asked = { slug: o.campaign ?? null, recompute: o.recompute ?? false, heads }
    const { jobId } = await call<{ jobId: number }>('POST', '/api/proofs/verify', asked)
    const found = await jobAtEnd<Found>(call, jobId, say)
    return { exit: found.findings.length > 0 ? 3 : 0, stdout: print(found), stderr: '' }
  }
  const [file, folder] = positionals
  if (file === undefined || (command === 'restore' && folder === undefined))
    throw new HypometError(
      'usage',
      `A file${command === 'restore' ? ' and a folder' : ''} is needed.\n${PROOFS_USAGE}`,
      {
        path: 'args',
      },
    )
  if (command === 'backup') return { exit: 0, stdout: print(await fetched(baseOf(o.server), file)), stderr: '' }
  const { restore } = await import('./restore')
  const { at, originals, size } = await restore(file, folder!)
  return {
    exit: 0,
    stdout: print({ folder, at, originals, size, start: `HYPOMET_FOLDER=${folder} npm start` }),
    stderr: '',
  }
}

/** What a JSON export says of where the trail ended then. @throws HypometError `no-head`, `damaged-file` */
function headIn(file: string): unknown {
  let head: unknown
  try {
    head = (JSON.parse(readFileSync(file, 'utf8')) as { auditHead?: unknown }).auditHead
  } catch {
    throw new HypometError('damaged-file', `“${file}” is not there, or is no JSON.`, { file })
  }
  if (!head) throw new HypometError('no-head', `“${file}” does not say where the audit trail ended.`, { file })
  return head
}

async function fetched(base: string, file: string): Promise<{ file: string; size: number }> {
  const response = await fetch(`${base}/api/proofs/backup`).catch(() => null)
  if (!response) throw unreachable(base)
  if (!response.ok || !response.body)
    throw answeredError((await response.json()) as object, 'The server made no backup.')
  const part = `${file}.part`
  const stream = createWriteStream(part)
  try {
    await pipeline(Readable.fromWeb(response.body as Parameters<typeof Readable.fromWeb>[0]), stream)
  } catch (e) {
    await rm(part, { force: true })
    throw new HypometError('truncated-file', `The backup broke off: ${(e as Error).message}.`, { path: 'args', file })
  }
  await rename(part, file)
  return { file, size: stream.bytesWritten }
}

const print = (value: unknown): string => JSON.stringify(value, null, 1) + '\n'

function parsed(rest: string[]) {
  try {
    return parseArgs({ args: rest, options: OPTIONS, allowPositionals: true })
  } catch (e) {
    throw new HypometError('usage', `${(e as Error).message}\n${PROOFS_USAGE}`, { path: 'args' })
  }
}
