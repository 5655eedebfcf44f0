import { parentPort, workerData } from 'node:worker_threads'
import { isHypometError } from '@hypomet/core'
import { openConnection } from '../db/client'
import { Originals } from '../db/originals'
import * as z from 'zod'
import { handlers, jobMessage, type JobContext } from '../jobs/handlers'
import type { ToWorker, FromWorker } from '../jobs/runner'

const { url, originalsFolder } = z.object({ url: z.string(), originalsFolder: z.string() }).parse(workerData)
const db = await openConnection(url)
const originals = new Originals(originalsFolder)
const say = (m: FromWorker) => parentPort!.postMessage(m)

/** One call after the other: jobs share this thread's connection and its transactions. */
let turn: Promise<void> = Promise.resolve()
parentPort!.on('message', (m: ToWorker) => {
  turn = turn.then(() => answer(m))
})

async function answer(raw: ToWorker): Promise<void> {
  const { call } = raw
  const context: JobContext = { db, originals, progress: (share, doing) => say({ call, progress: { share, doing } }) }
  try {
    const m = jobMessage.parse(raw)
    say({ call, result: m.kind === 'import' ? await handlers.import(context, m.payload) : await handlers.reduce(context, m.payload) })
  } catch (e) {
    const known = isHypometError(e)
    say({ call, error: known ? { code: e.code, message: e.message, place: { ...e.place } } : { code: 'internal', message: 'This went wrong inside Hypomet; nothing was changed.', place: {}, detail: String((e as Error).stack ?? e) } })
  }
}
