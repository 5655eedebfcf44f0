import { parentPort, workerData } from 'node:worker_threads'
import { isHypometError } from '@hypomet/core'
import { openConnection } from '../db/client'
import { Originals } from '../db/originals'
import { handlers, type JobContext, type JobKind } from '../jobs/handlers'
import type { ToWorker, FromWorker } from '../jobs/runner'

const { url, originalsFolder } = workerData as { url: string; originalsFolder: string }
const db = await openConnection(url)
const originals = new Originals(originalsFolder)
const say = (m: FromWorker) => parentPort!.postMessage(m)

/** One call after the other: jobs share this thread's connection and its transactions. */
let turn: Promise<void> = Promise.resolve()
parentPort!.on('message', (m: ToWorker) => {
  turn = turn.then(() => answer(m))
})

async function answer({ call, kind, payload }: ToWorker): Promise<void> {
  const context: JobContext = { db, originals, progress: (share, doing) => say({ call, progress: { share, doing } }) }
  try {
    const handler = handlers[kind as JobKind] as (c: JobContext, p: unknown) => Promise<unknown>
    say({ call, result: await handler(context, payload) })
  } catch (e) {
    const known = isHypometError(e)
    say({ call, error: known ? { code: e.code, message: e.message, place: { ...e.place } } : { code: 'internal', message: 'This went wrong inside Hypomet; nothing was changed.', place: {}, detail: String((e as Error).stack ?? e) } })
  }
}
