import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { takeDatabase, type Ownership } from '../db/connection/ownership'
import { readEnvironment } from '../environment'
import { createFront } from '../front/front'
import { Pages } from '../front/pages'
import { LiveRigs } from '../live/rigs'
import { ThreadRecorder } from '../live/threadRecorder'
import { isLoopback } from '../utils/loopback'

const { databaseUrl: url, host, port } = readEnvironment()
if (!isLoopback(host)) {
  console.error(`Hypomet has no sign-in yet and listens on 127.0.0.1 only; it will not start on ${host}.`)
  process.exit(1)
}
const ownership = taken()
process.on('exit', () => ownership.release())
const recorder = new ThreadRecorder(
  () => new Worker(new URL('./recorder.mjs', import.meta.url), { workerData: { url } }),
)
const pages: Pages = new Pages(
  fileURLToPath(new URL('../index.mjs', import.meta.url)),
  {
    begin: (...args: Parameters<LiveRigs['begin']>) => rigs.begin(...args),
    command: (...args: Parameters<LiveRigs['command']>) => rigs.command(...args),
    isOnDisk: (id: number) => rigs.isOnDisk(id),
    going: () => rigs.going(),
    close: (id: number, end: string | null) => rigs.close(id, end),
    opened() {
      pages.opened()
      // A run that begins finds its recorder ready; what is wrong with the store the pages say.
      void recorder.warm().catch(() => undefined)
    },
  },
  code => process.exit(code),
)
const rigs = new LiveRigs(recorder, pages.keeper)
const server = createFront(rigs, pages)
server.listen(port, host, () => pages.begin())
server.on('error', e => {
  console.error(`Port ${port} of ${host} cannot be listened on: ${e.message}`)
  process.exit(1)
})

// Something is on at a rig: whatever else went wrong here, runs go on.
for (const kind of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(kind, (e: unknown) => console.error('The front goes on after', e))

/** Nothing is opened, swept or resumed of a database that another process has. */
function taken(): Ownership {
  try {
    return takeDatabase(url)
  } catch (e) {
    console.error(e instanceof Error ? e.message : e)
    return process.exit(1)
  }
}

let isStopping = false
async function stop(): Promise<void> {
  if (isStopping) return
  isStopping = true
  server.close()
  server.closeAllConnections()
  await rigs.stopAll()
  await recorder.stop()
  await pages.stop()
  process.exit(0)
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop())
