import { parentPort, workerData } from 'node:worker_threads'
import { readChannels, type StoredChannel } from '../db/bulk'
import { openConnection } from '../db/client'
import { lookOverSome, type AskedChannel } from '../jobs/healthThreads'

const { url, time } = workerData as { url: string; time: StoredChannel }
const db = await openConnection(url, { readOnly: true })
const t = (await readChannels(db.$client, [time])).get(time.id)!

/** Looks over some channels of the dataset that this thread was made for. */
parentPort!.on('message', async (asked: AskedChannel[]) => parentPort!.postMessage(await lookOverSome(db, t, asked)))
