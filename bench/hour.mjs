// A logger of 64 channels at 1 kHz over a line for an hour (MINUTES), and a console that draws them: whether every
// sample is stored, and whether page and server stay as large as they were.
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { answers, caller, pause } from './api.mjs'
import { panelOf, wideChannels } from './panel.mjs'
import { ensureBuild } from '../scripts/ensure.mjs'

const MINUTES = Number(process.env.MINUTES ?? 60)
const CHANNELS = 64
const RATE = 1000
ensureBuild()
const { loadDemo, prepareTest } = await import('../.output/demo/load.mjs')
const folder = mkdtempSync(join(tmpdir(), 'hypomet-hour-'))
const port = 4599
const base = `http://127.0.0.1:${port}`
const server = spawn('node', ['.output/server/workers/front.mjs'], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: `file:${join(folder, 'bench.db')}` },
})
process.on('exit', () => server.kill())
const call = caller(base)
await answers(base)
await loadDemo(base, join('demo', 'data'), { specimens: false })

const { panel, plan } = await panelOf(call)
const channels = wideChannels(plan, CHANNELS)
const gauges = channels.slice(2)
const { id } = await call('POST', `/api/revisions/${panel.id}/tests`, {
  title: 'an hour',
  plan: {
    ...plan,
    rate: { value: RATE, unit: 'Hz' },
    watch: [],
    rungs: [
      { target: 0, hold: { value: 5, unit: 's' } },
      { target: { value: 1, unit: 'kN' }, hold: { value: 100_000, unit: 's' } },
    ],
    channels,
  },
})
await prepareTest(base, id)

/** Lines as a logger with a clock of its own sends them: those that are due, a few at a time. */
let sent = 0
let tap = null
const logger = createServer(socket => {
  tap = socket
  socket.on('error', () => {})
})
await new Promise(resolve => logger.listen(0, '127.0.0.1', resolve))
const roles = ['load', 'deflection', ...gauges.map(g => g.role)]
const rest = gauges.map((_, i) => (i / 10).toFixed(1)).join(',')
const { runId } = await call('POST', `/api/tests/${id}/runs`, {
  source: 'stream',
  setUp: {
    where: { kind: 'tcp', host: '127.0.0.1', port: logger.address().port },
    delimiter: ',',
    names: ['t', ...roles],
    channels: {
      t: { column: 't', unit: 's' },
      load: { column: 'load', unit: 'N' },
      deflection: { column: 'deflection', unit: 'mm' },
      ...Object.fromEntries(gauges.map(g => [g.role, { column: g.role, unit: 'µε' }])),
    },
  },
})
while (!tap) await pause(20)
const begun = performance.now()
const lines = () => {
  const due = Math.floor(((performance.now() - begun) / 1000) * RATE)
  let text = ''
  for (; sent < due; sent++) {
    const load = sent < 8 * RATE ? 0 : 900 + (sent % 100)
    text += `${(sent / RATE).toFixed(3)},${load},${(sent % 1000) / 100},${rest}\n`
  }
  if (text) tap.write(text)
}
const ticking = setInterval(lines, 20)

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking', '--disable-sync'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(`${base}/tests/${id}/run`)
await page.getByRole('radio', { name: 'Strips' }).click()
const devtools = await page.context().newCDPSession(page)
/** MB of the page's heap after its garbage is gone. */
async function heap() {
  await devtools.send('HeapProfiler.collectGarbage')
  return (await devtools.send('Runtime.getHeapUsage')).usedSize / 2 ** 20
}
const children = pid =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number)
/** MB that a process and those that it began hold. */
const resident = pid =>
  [pid, ...children(pid)].reduce((sum, p) => {
    const kb = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${p}/status`, 'utf8'))?.[1] ?? 0
    return sum + Number(kb) / 1024
  }, 0)
const seen = []
while (performance.now() - begun < MINUTES * 60_000) {
  await pause(Math.min(30_000, MINUTES * 6000))
  seen.push({ heap: await heap(), server: resident(server.pid) })
}
clearInterval(ticking)
lines()
const all = sent
await pause(2000)
await call('POST', `/api/runs/${runId}/command`, { command: 'abort' })
tap.write(`${(sent / RATE).toFixed(3)},0,0,${rest}\n`)
const moreZeros = setInterval(() => {
  lines()
}, 20)
let pages = null
for (let i = 0; i < 240; i++) {
  pages = await call('GET', `/api/tests/${id}`)
  if (pages.runs[0].status === 'closed') break
  await call('POST', `/api/runs/${runId}/command`, { command: 'reached' }).catch(() => {})
  await pause(1000)
}
clearInterval(moreZeros)
const { rows } = pages.datasets[0]
const quarter = Math.max(1, Math.floor(seen.length / 4))
const mean = (list, key) => list.reduce((s, v) => s + v[key], 0) / list.length
const grown = key =>
  `${mean(seen.slice(quarter, 2 * quarter), key).toFixed(0)} → ${mean(seen.slice(-quarter), key).toFixed(0)} MB`
console.log('| what | measured | aim |\n|---|---|---|')
console.log(`| lines of ${CHANNELS} channels in ${MINUTES} minutes, and rows stored | ${all}, ${rows} | all |`)
console.log(`| heap of the page after its garbage, second quarter → last | ${grown('heap')} | flat |`)
console.log(`| resident, front and pages, second quarter → last | ${grown('server')} | flat |`)
await browser.close()
logger.close()
server.kill()
rmSync(folder, { recursive: true, force: true })
process.exit(0)
