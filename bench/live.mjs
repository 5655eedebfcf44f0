// A live run in the built application: a console with 64 strips, the time from a sample to an abort, and 512 channels
// at 1 kHz.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { createClient } from '@libsql/client'
import WebSocket from 'ws'
import { answers, caller, pause } from './api.mjs'
import { panelOf, wideChannels } from './panel.mjs'
import { ensureBuild } from '../scripts/ensure.mjs'

ensureBuild()
const { loadDemo, prepareTest } = await import('../.output/demo/load.mjs')
const folder = mkdtempSync(join(tmpdir(), 'hypomet-live-'))
const port = 4594
const base = `http://127.0.0.1:${port}`
const SECONDS = Number(process.env.SECONDS ?? 60)
const median = values => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]
const say = (what, value, aim) => console.log(`| ${what} | ${value} | ${aim} |`)
const server = spawn('node', ['.output/server/workers/front.mjs'], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: `file:${join(folder, 'bench.db')}` },
})
process.on('exit', () => server.kill())
const call = caller(base)
await answers(base)
await loadDemo(base, join('demo', 'data'))
const { panel, plan } = await panelOf(call)

/** A test of so many channels at 1 kHz on the demo's panel, ready to run. */
async function wideTest(channels, change = {}) {
  const { id } = await call('POST', `/api/revisions/${panel.id}/tests`, {
    title: `${channels} channels`,
    plan: {
      ...plan,
      rate: { value: 1, unit: 'kHz' },
      watch: [],
      channels: wideChannels(plan, channels),
      ...change,
    },
  })
  await (channels > 64 ? prepareWide(id) : prepareTest(base, id))
  return id
}

/** A checklist of a thousand items, ticked straight in the database: what is measured is the run. */
async function prepareWide(id) {
  const { firings } = await call('GET', `/api/tests/${id}`)
  for (const f of firings)
    if (f.answer === null)
      await call('POST', '/api/registers/firing', {
        campaignId: panel.campaignId ?? 1,
        changes: [{ id: f.id, version: f.version, values: { answer: 'applied' } }],
      })
  await call('POST', `/api/tests/${id}/plan/release`, {})
  const { ready } = await call('GET', `/api/tests/${id}`)
  const db = createClient({ url: `file:${join(folder, 'bench.db')}` })
  const at = new Date().toISOString()
  await db.batch(
    ready
      .filter(i => i.state === 'open' && i.group !== 'Lessons')
      .map(i => ({
        sql: 'insert into ready_mark (test_id, key, state, reason, by, at) values (?, ?, ?, ?, ?, ?)',
        args: [id, i.key, i.automatic === false ? 'overridden' : 'done', 'bench', 'Bench', at],
      })),
  )
  db.close()
}

/** CPU seconds of a process so far, from its kernel. */
const cpu = pid => {
  const f = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(f[11]) + Number(f[12])) / 100
}
const children = pid =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number)
const family = pid => [pid, ...children(pid).flatMap(family)]
/** Of a process and all that it began. */
const used = pid =>
  family(pid).reduce((s, p) => {
    try {
      return s + cpu(p)
    } catch {
      return s
    }
  }, 0)

console.log('| what | measured | aim |\n|---|---|---|')
{
  const id = await wideTest(64)
  const { runId } = await call('POST', `/api/tests/${id}/runs`, { source: 'rig', pace: 1, seed: 1 })
  const launched = await chromium.launchServer({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking', '--disable-sync'],
  })
  const browser = await chromium.connect(launched.wsEndpoint())
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${base}/`)
  const first = []
  for (let i = 0; i < 5; i++) {
    const begun = performance.now()
    await page.goto(`${base}/tests/${id}/run`)
    await page.waitForFunction(
      () =>
        /[0-9]/.test(document.querySelector('[data-testid=load]')?.textContent ?? '') &&
        document.querySelector('[data-testid=recorder]')?.textContent !== '',
    )
    first.push(performance.now() - begun)
  }
  say('first frame after opening the console, 64 channels', `${Math.round(median(first))} ms`, '< 1 s')
  await page.waitForFunction(() => window.useNuxtApp?.().isHydrating === false)
  await page.getByRole('tab', { name: 'Strips' }).click()
  await pause(4000)
  const frames = () => page.evaluate(() => Number(document.querySelector('[data-testid=strips]').dataset.frames ?? 0))
  const browserPid = launched.process().pid
  const [from, cpuFrom, serverFrom, at] = [await frames(), used(browserPid), used(server.pid), performance.now()]
  await pause(20_000)
  const seconds = (performance.now() - at) / 1000
  say(
    '64 channels × 1 kHz as strips: frames drawn a second',
    `${((await frames()) - from) / seconds >= 0 ? (((await frames()) - from) / seconds).toFixed(0) : '–'}`,
    '30',
  )
  say(
    '… all processes of the browser',
    `${Math.round((100 * (used(browserPid) - cpuFrom)) / seconds)} % of one core`,
    '< 50 %',
  )
  say(
    '… server with its recorder',
    `${Math.round((100 * (used(server.pid) - serverFrom)) / seconds)} % of one core`,
    '–',
  )
  await browser.close()
  await launched.close()
  await call('POST', `/api/runs/${runId}/command`, { command: 'abort' })
}
{
  // A logger's own line: from the write of the sample to the abort that it brings, as a second listener hears it.
  const sockets = new Set()
  const logger = createServer(s => (sockets.add(s), s.on('error', () => {})))
  await new Promise(resolve => logger.listen(0, '127.0.0.1', resolve))
  const took = []
  for (let n = 0; n < 9; n++) {
    const id = await wideTest(2, {
      rate: { value: 100, unit: 'Hz' },
      rungs: [
        { target: 0, hold: { value: 1, unit: 's' } },
        { target: { value: 1, unit: 'kN' }, hold: { value: 30, unit: 's' } },
      ],
      watch: [{ kind: 'limit', role: 'load', value: { value: 2, unit: 'kN' }, action: 'abort' }],
    })
    const where = { kind: 'tcp', host: '127.0.0.1', port: logger.address().port }
    const { runId } = await call('POST', `/api/tests/${id}/runs`, {
      source: 'stream',
      setUp: {
        where,
        delimiter: ',',
        names: ['t', 'load', 'tip'],
        channels: {
          t: { column: 't', unit: 's' },
          load: { column: 'load', unit: 'N' },
          deflection: { column: 'tip', unit: 'mm' },
        },
      },
    })
    const socket = new WebSocket(`ws://127.0.0.1:${port}/_live?run=${runId}`)
    let heard = null
    let sent = 0
    socket.onmessage = m => {
      if (!heard && sent && JSON.parse(m.data).events?.some(e => e.kind === 'abort')) heard = performance.now()
    }
    let i = 0
    const line = load => {
      for (const s of sockets) s.write(`${(i++ / 100).toFixed(2)},${load},1\n`)
    }
    for (let k = 0; k < 160; k++) {
      line(0.5)
      await pause(10)
    }
    sent = performance.now()
    line(2500)
    while (!heard) await pause(1)
    took.push(heard - sent)
    socket.close()
    for (const s of sockets) s.destroy()
    sockets.clear()
    await call('POST', `/api/runs/${runId}/command`, { command: 'reached' }).catch(() => {})
  }
  logger.close()
  say(
    'from a sample on the logger’s line to the abort, as another listener hears it: median, worst of nine',
    `${median(took).toFixed(1)} ms, ${Math.max(...took).toFixed(1)} ms`,
    '< 100 ms',
  )
}
{
  const id = await wideTest(512)
  const { runId } = await call('POST', `/api/tests/${id}/runs`, { source: 'rig', pace: 1, seed: 1 })
  const socket = new WebSocket(`ws://127.0.0.1:${port}/_live?run=${runId}`)
  let last = null
  let [behind, t] = [0, 0]
  const latencies = []
  socket.onmessage = m => {
    const frame = JSON.parse(m.data)
    if (frame.state) t = frame.state.t
    if (!frame.now) return
    last = frame.now
    behind = Math.max(behind, last.recorder.behind)
    latencies.push(last.latency.last)
  }
  await pause(3000)
  const [cpuFrom, at, tFrom] = [used(server.pid), performance.now(), t]
  behind = 0
  await pause(SECONDS * 1000)
  const seconds = (performance.now() - at) / 1000
  say(`512 channels × 1 kHz for ${SECONDS} s: the rig’s clock over this one`, ((t - tFrom) / seconds).toFixed(3), '1')
  say(
    '… server with its recorder, of two cores',
    `${Math.round((100 * (used(server.pid) - cpuFrom)) / seconds)} % of one core`,
    '< 200 %',
  )
  say('… recorder behind by at most', `${behind.toFixed(2)} s`, '< 1 s')
  say(
    '… from a sample to what was done about it: median, worst',
    `${median(latencies).toFixed(0)} ms, ${Math.max(...latencies).toFixed(0)} ms`,
    '< 100 ms',
  )
  await call('POST', `/api/runs/${runId}/command`, { command: 'abort' })
  const closing = performance.now()
  await new Promise(resolve => {
    socket.on('message', m => JSON.parse(m).closed && resolve())
  })
  const page = await call('GET', `/api/tests/${id}`)
  const rows = page.datasets[0].rows
  say(
    '… samples in the record, of those that the rig gave',
    `${rows} × 512; ${rows / 1000 - page.runs[0].events.at(-1).t > 0 ? 'all' : 'too few'}`,
    'all',
  )
  say(
    '… from the abort to the closed record (20 s of it unloading and zero)',
    `${((performance.now() - closing) / 1000).toFixed(1)} s`,
    '–',
  )
  socket.close()
}
server.kill()
rmSync(folder, { recursive: true, force: true })
process.exit(0)
