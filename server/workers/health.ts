import { parentPort, workerData } from 'node:worker_threads'
import { channelHealth, type HealthFlag, type HealthOptions } from '@hypomet/core'
import { openConnection } from '../db/client'
import { readSamples } from '../db/samples'

const { url, timeId } = workerData as { url: string; timeId: number }
const db = await openConnection(url, { readOnly: true })
const t = await readSamples(db, timeId)

/** Looks over some channels of the dataset that this thread was made for. */
parentPort!.on('message', async (asked: { id: number; options: HealthOptions }[]) => {
  const found: { id: number; health: HealthFlag[] }[] = []
  for (const { id, options } of asked) found.push({ id, health: channelHealth(t, await readSamples(db, id), options) })
  parentPort!.postMessage(found)
})
