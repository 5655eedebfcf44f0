// Samples and keys to what they bring about, while twenty people read the pages of a thousand tests and a file of
// 300 MB is imported: as another listener at the server hears it.
import { fork } from 'node:child_process'
import { rmSync } from 'node:fs'
import { createServer } from 'node:net'
import WebSocket from 'ws'
import { thousandTests } from './thousand.mjs'

const ABORTS = Number(process.env.ABORTS ?? 20)
const RUNS = Number(process.env.RUNS ?? 5)
const pause = ms => new Promise(resolve => setTimeout(resolve, ms))
const { base, slug, tests, folder, end } = await thousandTests(4597)
const { prepareTest } = await import('../.output/demo/load.mjs')
const call = async (method, path, body) => {
  const r = await fetch(base + path, {
    method,
    headers: { 'content-type': 'application/json', 'x-hypomet-person': 'Bench' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  })
  const text = await r.text()
  if (!r.ok) throw new Error(`${method} ${path}: ${text}`)
  return JSON.parse(text)
}
const panel = (await call('GET', '/api/campaigns')).flatMap(c => c.articles).find(a => a.name === 'Cargo floor panel')
  .revisions[0]
const { plan } = (await call('GET', `/api/tests/${panel.tests[0].id}`)).test
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
const sockets = new Set()
const logger = createServer(s => (sockets.add(s), s.on('error', () => {}), s.on('close', () => sockets.delete(s))))
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
let [line, load] = [0, 0.5]
const say = () => {
  for (const s of sockets) s.write(`${(line++ / 100).toFixed(2)},${load},1\n`)
}
/** A run on the logger's lines, and how the next event of a kind is waited for. */
async function running(testId) {
  const { runId } = await call('POST', `/api/tests/${testId}/runs`, { source: 'stream', setUp })
  const socket = new WebSocket(`${base.replace('http', 'ws')}/_live?run=${runId}`)
  let hear = () => {}
  socket.onmessage = m => {
    for (const e of JSON.parse(m.data).events ?? []) hear(e)
  }
  await new Promise(resolve => (socket.onopen = resolve))
  return {
    runId,
    socket,
    next: kind => new Promise(resolve => (hear = e => e.kind === kind && resolve(performance.now()))),
  }
}
const timer = globalThis.setInterval(say, 10)
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

async function round(what) {
  const [samples, keys, aborts, stored] = [[], [], [], []]
  for (let r = 0; r < RUNS; r++) {
    load = 0.5
    const run = await running(steps.shift())
    await pause(2500)
    for (let n = 1; n < STEPS - 10; n++) {
      const heard = run.next('watch')
      load = 10.2 + n
      const sent = performance.now()
      say()
      samples.push((await heard) - sent)
      await pause(20)
      const key = performance.now()
      await call('POST', `/api/runs/${run.runId}/command`, { command: n % 2 ? 'hold' : 'resume' })
      keys.push(performance.now() - key)
      await pause(20)
    }
    await call('POST', `/api/runs/${run.runId}/command`, { command: 'abort' })
    await call('POST', `/api/runs/${run.runId}/command`, { command: 'reached' }).catch(() => {})
    run.socket.close()
  }
  load = 0.5
  for (const id of ids.splice(0, ABORTS / 2)) {
    const one = await running(id)
    await pause(1500)
    const heard = one.next('abort')
    const key = performance.now()
    const answered = call('POST', `/api/runs/${one.runId}/command`, { command: 'abort' })
    aborts.push((await heard) - key)
    const { isStored } = await answered
    stored.push(isStored ? performance.now() - key : Infinity)
    one.socket.close()
  }
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
await round('idle')
const clients = fork(new URL('loadedClients.mjs', import.meta.url), [base, slug, String(tests[3]), folder])
await new Promise(resolve => clients.once('message', resolve))
await pause(5000)
await round('loaded')
const counts = await new Promise(resolve => (clients.on('message', resolve), clients.send('end')))
console.log(`Meanwhile ${counts.pages} pages were read and ${counts.imports} files of 300 MB imported.`)
globalThis.clearInterval(timer)
for (const s of sockets) s.destroy()
logger.close()
await end()
rmSync(folder, { recursive: true, force: true })
process.exit(0)
