import { parentPort, workerData } from 'node:worker_threads'
import { availableParallelism } from 'node:os'
import { HypometError, isHypometError, toRefusal } from '@hypomet/core'
import { openConnection } from '../db/connection/client'
import { Originals } from '../db/connection/originals'
import { parseThreads } from '../ingest/parseThreads'
import * as z from 'zod'
import { handlers, jobMessage } from '../jobs/handlers'
import { type JobContext } from '../jobs/context'
import { lookOverOnThreads, meansOnThreads } from '../jobs/healthThreads'
import { ThreadPool } from '../jobs/threadPool'
import type { ToWorker, FromWorker } from '../jobs/lane'

/** As a thread, or as a process of its own. */
const given: unknown = parentPort ? workerData : JSON.parse(process.env['HYPOMET_WORKER_DATA'] ?? '{}')
const { url, originalsFolder } = z.object({ url: z.string(), originalsFolder: z.string() }).parse(given)
// A process whose server is gone has nobody to work for.
if (!parentPort) process.on('disconnect', () => process.exit(0))
const db = await openConnection(url)
const originals = new Originals(originalsFolder)
const threads = Math.max(1, Math.min(4, availableParallelism()))
const pool = new ThreadPool(new URL('./crunch.mjs', import.meta.url), { url }, threads)
const parsers = parseThreads(pool)
const lookOver = lookOverOnThreads(pool)
const meansOfSteps = meansOnThreads(pool)
const cancelled = new Set<number>()
/** A process that is busy hears late of its line; whose child it is the system says at once. */
const parent = process.ppid
const isOrphan = (): boolean => !parentPort && (process.ppid !== parent || !process.connected)

/** Who has lost his server ends at once: what another goes on with is not his to take back any more. */
const say = (m: FromWorker): void => {
  if (parentPort) parentPort.postMessage(m)
  else if (isOrphan()) process.exit(0)
  else process.send!(m, undefined, {}, e => e && process.exit(0))
}

/** One call after the other: jobs share this thread's connection and its transactions. */
let turn: Promise<void> = Promise.resolve()
const hear = (m: ToWorker | { cancel: number }) => {
  if ('cancel' in m) return void cancelled.add(m.cancel)
  turn = turn.then(() => answer(m))
}
if (parentPort) parentPort.on('message', hear)
else process.on('message', m => hear(m as ToWorker))

/** That a server is gone is heard a moment later. */
async function stillWanted(): Promise<void> {
  if (parentPort) return
  await new Promise(resolve => setTimeout(resolve, 100))
  if (isOrphan()) process.exit(0)
}

function stopIf(isCancelled: boolean): void {
  if (isOrphan()) process.exit(0)
  if (isCancelled) throw new HypometError('cancelled', 'The import was stopped; nothing of it was kept.')
}

async function answer(raw: ToWorker): Promise<void> {
  const { call } = raw
  const context: JobContext = {
    db,
    originals,
    parsers,
    lookOver,
    meansOfSteps,
    progress: (share, doing) => say({ call, progress: { share, doing } }),
    check: () => stopIf(cancelled.has(call)),
    stillWanted,
  }
  try {
    const m = jobMessage.parse(raw)
    say({
      call,
      result: await (handlers[m.kind] as (c: JobContext, p: unknown) => Promise<unknown>)(context, m.payload),
    })
  } catch (e) {
    const known = isHypometError(e)
    say({
      call,
      error: known
        ? toRefusal(e)
        : {
            code: 'internal',
            message: 'This went wrong inside Hypomet; nothing was changed.',
            place: {},
            detail: String((e as Error).stack ?? e),
          },
    })
  }
}
