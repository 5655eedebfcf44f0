// Loaded before the server: writes how late its event loop came, at most, in each tenth of a second, ms.
import { appendFileSync } from 'node:fs'
import { monitorEventLoopDelay } from 'node:perf_hooks'
import { isMainThread } from 'node:worker_threads'

if (isMainThread && process.env.LAG_FILE) {
  const delay = monitorEventLoopDelay({ resolution: 1 })
  delay.enable()
  globalThis
    .setInterval(() => {
      appendFileSync(process.env.LAG_FILE, `${Date.now()} ${(delay.max / 1e6).toFixed(1)}\n`)
      delay.reset()
    }, 100)
    .unref()
}
