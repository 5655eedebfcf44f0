// Samples and keys to what they bring about, while twenty people read the pages of a thousand tests and a file of
// 300 MB is imported: as another listener at the server hears it.
import { fork } from 'node:child_process'
import { rmSync } from 'node:fs'
import { createServer } from 'node:net'
import WebSocket from 'ws'
import { caller, pause } from './api.mjs'
import { panelOf } from './panel.mjs'
import { thousandTests } from './thousand.mjs'

const ABORTS = Number(process.env.ABORTS ?? 20)
const RUNS = Number(process.env.RUNS ?? 5)
const { base, slug, tests, folder, end } = await thousandTests(4597)
const { prepareTest } = await import('../.output/demo/load.mjs')
const call = caller(base)
const { panel, plan } = await panelOf(call)
/** A limit for every sample to come, each of which speaks once. */
const STEPS = 250
async function freshTest(watch) {
  const { id } = await call('POST', `/api/revisions/${panel.id}/tests`, {
    title: 'abort',
    plan: {
      ...plan,
      rate: { value: 100, unit: 'Hz' },
      rungs: [
        { target: 0, hold: { value: 1, unit: 's' } },
        { target: { value: 1, unit: 'kN' }, hold: { value: 600, unit: 's' } },
      ],
      watch,
      channels: plan.channels.filter(c => c.role === 'load' || c.role === 'deflection'),
    },
  })
  await prepareTest(base, id)
  return id
}
/** Lines of the logger by run: each has a connection, a clock and a load of its own. */
const taps = []
const logger = createServer(socket => {
  taps.push({ socket, line: 0, load: 0.5 })
  socket.on('error', () => {})
})
await new Promise(resolve => logger.listen(0, '127.0.0.1', resolve))
const setUp = {
  where: { kind: 'tcp', host: '127.0.0.1', port: logger.address().port },
  delimiter: ',',
  names: ['t', 'load', 'tip'],
  channels: {
    t: { column: 't', unit: 's' },
    load: { column: 'load', unit: 'N' },
    deflection: { column: 'tip', unit: 'mm' },
  },
}
const say = tap => tap.socket.write(`${(tap.line++ / 100).toFixed(2)},${tap.load},1\n`)
/** A run on the logger's lines, and how the next event of a kind is waited for. */
async function running(testId) {
  const before = taps.length
  const { runId } = await call('POST', `/api/tests/${testId}/runs`, { source: 'stream', setUp })
  const socket = new WebSocket(`${base.replace('http', 'ws')}/_live?run=${runId}`)
  let hear = () => {}
  socket.onmessage = m => {
    for (const e of JSON.parse(m.data).events ?? []) hear(e)
  }
  await new Promise(resolve => (socket.onopen = resolve))
  while (taps.length === before) await pause(10)
  return {
    tap: taps.at(-1),
    runId,
    socket,
    next: kind => new Promise(resolve => (hear = e => e.kind === kind && resolve(performance.now()))),
  }
}
const timer = globalThis.setInterval(() => taps.forEach(say), 10)
const stepsTest = () =>
  freshTest(
    Array.from({ length: STEPS }, (_, i) => ({
      kind: 'limit',
      role: 'load',
      value: { value: 10 + i, unit: 'N' },
      action: 'warn',
    })),
  )
const steps = []
for (let i = 0; i < 2 * RUNS; i++) steps.push(await stepsTest())
const ids = []
for (let i = 0; i < ABORTS; i++) ids.push(await freshTest([]))

/** Runs for one round, begun while nothing else goes on: what is measured is how they are heard. */
async function begun() {
  const [climbing, aborted] = [[], []]
  for (let r = 0; r < RUNS; r++) climbing.push(await running(steps.shift()))
  for (const id of ids.splice(0, ABORTS / 2)) aborted.push(await running(id))
  await pause(2500)
  return { climbing, aborted }
}

async function round(what, { climbing, aborted }) {
  const [samples, keys, aborts, stored] = [[], [], [], []]
  for (const run of climbing)
    for (let n = 1; n < STEPS - 10; n++) {
      const heard = run.next('watch')
      run.tap.load = 10.2 + n
      const sent = performance.now()
      say(run.tap)
      samples.push((await heard) - sent)
      await pause(20)
      const key = performance.now()
      await call('POST', `/api/runs/${run.runId}/command`, { command: n % 2 ? 'hold' : 'resume' })
      keys.push(performance.now() - key)
      await pause(20)
    }
  for (const run of aborted) {
    const heard = run.next('abort')
    const key = performance.now()
    const answered = call('POST', `/api/runs/${run.runId}/command`, { command: 'abort' })
    aborts.push((await heard) - key)
    const { isStored } = await answered
    stored.push(isStored ? performance.now() - key : Infinity)
  }
  for (const run of [...climbing, ...aborted]) run.socket.close()
  const at = (values, share) =>
    values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))]
  for (const [name, values] of [
    ['sample on the line → watch rule heard', samples],
    ['key (hold, resume) → answered', keys],
    ['abort → heard by another console', aborts],
    ['abort → on the disk and answered', stored],
  ]) {
    const shown = [0.5, 0.99, 0.999, 1].map(share => at(values, share).toFixed(1)).join(' / ')
    console.log(`| ${what}: ${name}, ${values.length} times | ${shown} ms | ≤ 50 at 99.9 % |`)
  }
}
console.error('Prepared.')
console.log('| what | median / 99 % / 99.9 % / worst | aim |\n|---|---|---|')
await round('idle', await begun())
const underLoad = await begun()
const clients = fork(new URL('loadedClients.mjs', import.meta.url), [base, slug, String(tests[3]), folder])
await new Promise(resolve => clients.once('message', resolve))
await pause(5000)
await round('loaded', underLoad)
const counts = await new Promise(resolve => (clients.on('message', resolve), clients.send('end')))
console.log(`Meanwhile ${counts.pages} pages were read and ${counts.imports} files of 300 MB imported.`)
globalThis.clearInterval(timer)
for (const { socket } of taps) socket.destroy()
logger.close()
await end()
rmSync(folder, { recursive: true, force: true })
process.exit(0)
