import { parentPort, workerData } from 'node:worker_threads'
import * as z from 'zod'
import { Database } from '../db/connection/client'
import { causesOf } from '../live/causes'
import { StoreRecorder } from '../db/records/recorder'
import type { FromRecorder, ToRecorder } from '../live/threadRecorder'

const { url } = z.object({ url: z.string() }).parse(workerData)
// What a run has been told is stored outlasts a power cut.
const database = await Database.open(url, { isDurable: true })
const recorder = new StoreRecorder(change => database.write(change))

/** The store stands free for this share of the time that it was just held. */
const GAP = 0.25

/** One after the other, in the order in which they came. */
let turn: Promise<void> = Promise.resolve()
parentPort!.on('message', (m: ToRecorder) => {
  turn = turn.then(async () => {
    const begun = performance.now()
    const say = (problem: string | null) => parentPort!.postMessage({ call: m.call, problem } satisfies FromRecorder)
    try {
      if ('store' in m) await recorder.store(m.store)
      else if ('close' in m) await recorder.close(m.close.runId, m.close.end)
      say(null)
    } catch (e) {
      say(causesOf(e))
    }
    // Whoever else writes asks for the store now and then only: without a gap he might never find it free.
    await new Promise(resolve => setTimeout(resolve, GAP * (performance.now() - begun)))
  })
})
