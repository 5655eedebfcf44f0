// Cold start, page changes and script sizes of the built application, with the demo data. Medians.
import { mkdtempSync, rmSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { chromium } from '@playwright/test'
import { ensureBuild } from '../scripts/ensure.mjs'

ensureBuild()
const { loadDemo } = await import('../.output/demo/load.mjs')
const folder = mkdtempSync(join(tmpdir(), 'hypomet-bench-'))
const port = 4591
const base = `http://127.0.0.1:${port}`
const median = values => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]
const say = (what, value, unit, aim) => console.log(`| ${what} | ${value} ${unit} | ${aim} |`)

const start = () =>
  spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: 'ignore',
    env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: `file:${join(folder, 'bench.db')}` },
  })
async function answered(path) {
  for (;;) {
    try {
      const r = await fetch(base + path)
      await r.text()
      if (r.ok) return
    } catch {
      await new Promise(resolve => setTimeout(resolve, 10))
    }
  }
}
const ended = server => new Promise(resolve => (server.once('exit', resolve), server.kill('SIGTERM')))

let server = start()
process.on('exit', () => server.kill())
await answered('/api/health')
const slug = await loadDemo(base, join('demo', 'data'))
await ended(server)

const cold = []
for (let i = 0; i < 5; i++) {
  const begun = performance.now()
  server = start()
  await answered(`/campaigns/${slug}`)
  cold.push(performance.now() - begun)
  if (i < 4) await ended(server)
}

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })

console.log('| what | measured | aim |\n|---|---|---|')
say('cold start to the first page, rendered', Math.round(median(cold)), 'ms', 'under 3000 ms')

// Every script that a page names before anything is clicked: its own and those it preloads, compressed.
for (const path of [
  '/',
  `/campaigns/${slug}`,
  '/tests/2/plan',
  '/tests/2/judge',
  '/tests/2/change',
  '/tests/2/reduce',
  '/reports/2',
  '/sensors',
]) {
  const html = await (await fetch(base + path)).text()
  const named = new Set([...html.matchAll(/(?:src|href)="(\/_nuxt\/[^"]+\.js)"/g)].map(m => base + m[1]))
  const sizes = await Promise.all(
    [...named].map(async url => gzipSync(Buffer.from(await (await fetch(url)).arrayBuffer())).length),
  )
  say(`initial script of ${path}`, Math.round(sizes.reduce((a, b) => a + b, 0) / 1000), 'kB gzip', 'under 350 kB')
}

await page.goto(`${base}/tests/2/plan`, { waitUntil: 'networkidle' })
await page.waitForTimeout(500)
const heading = {
  ready: 'Ready to load',
  run: 'Import a logger’s file',
  judge: 'Cause and validity',
  change: 'Rules for sizing',
  plan: 'Load ladder',
  reduce: '2 · Zero',
}
const times = Object.fromEntries(Object.keys(heading).map(k => [k, []]))
for (let round = 0; round < 6; round++)
  for (const [stage, words] of Object.entries(heading)) {
    // In the page itself: from the key to the frame after the heading stands.
    const took = await page.evaluate(
      ({ key, words }) =>
        new Promise(resolve => {
          const begun = performance.now()
          window.dispatchEvent(new KeyboardEvent('keydown', { key }))
          const look = () => {
            if ([...document.querySelectorAll('h1, h2')].some(h => h.textContent?.includes(words)))
              requestAnimationFrame(() => resolve(performance.now() - begun))
            else requestAnimationFrame(look)
          }
          look()
        }),
      { key: String(['plan', 'ready', 'run', 'reduce', 'judge', 'change'].indexOf(stage) + 1), words },
    )
    if (round > 0) times[stage].push(took)
    await page.waitForTimeout(150)
  }
for (const [stage, list] of Object.entries(times))
  say(`page change to ${stage}`, Math.round(median(list)), 'ms', 'under 200 ms')

await browser.close()
await ended(server)
rmSync(folder, { recursive: true, force: true })
