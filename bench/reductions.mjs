/* global MutationObserver, PointerEvent */
// Reductions of long records in Node, and how often results are drawn anew while a handle is dragged in the browser on
// 1e5 samples.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { build } from 'esbuild'
import { ensureBuild, must } from '../scripts/ensure.mjs'

const folder = mkdtempSync(join(tmpdir(), 'hypomet-bench-'))
const bundle = join(folder, 'reductions.mjs')
await build({
  entryPoints: ['bench/reductions.ts'],
  outfile: bundle,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  logLevel: 'warning',
  banner: { js: 'import { createRequire as __cr } from "node:module"; const require = __cr(import.meta.url);' },
})
must('node', [bundle])

ensureBuild()
const { serve } = await import('../scripts/serve.mjs')
const { loadDemo, prepareTest } = await import('../.output/demo/load.mjs')
const { base, server } = await serve({ database: `file:${join(folder, 'bench.db')}`, usualPort: 4593 })
await loadDemo(base, join('demo', 'data'))
const json = async (path, init) =>
  (await fetch(base + path, { headers: { 'content-type': 'application/json' }, ...init })).json()

const ROWS = 100_000
const table = join(folder, 'long.csv')
const pressureAt = i => (i < 2000 || i > 99_000 ? 0 : 25 + 0.01 * Math.sin(i / 50))
const lines = Array.from({ length: ROWS }, (_, i) => `${(i / 100).toFixed(2)},${pressureAt(i).toFixed(4)},20.0`)
writeFileSync(table, ['Time [s],Pressure [kPa],Water [°C]', ...lines, ''].join('\n'))
const campaigns = await json('/api/campaigns')
const tests = campaigns[0].articles.flatMap(a =>
  a.revisions.flatMap(r => r.tests.map(t => ({ ...t, revisionId: r.id }))),
)
const leak = tests.find(t => t.title === 'Leak over ten minutes')
const {
  test: { plan },
} = await json(`/api/tests/${leak.id}`)
const { id } = await json(`/api/revisions/${leak.revisionId}/tests`, {
  method: 'POST',
  body: JSON.stringify({ title: 'Long', plan }),
})
await prepareTest(base, id)

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(`${base}/tests/${id}/run`, { waitUntil: 'networkidle' })
await page.getByLabel('Logger file').setInputFiles(table)
await page.getByRole('button', { name: 'Import', exact: true }).click()
await page.waitForURL(/reduce$/)
const grip = page.getByRole('slider', { name: 'Hold 1, from' })
const box = await grip.boundingBox()
await page.waitForTimeout(1500)
await page.evaluate(() => {
  window.redrawn = 0
  new MutationObserver(() => window.redrawn++).observe(document.querySelector('[data-table="holds"]'), {
    subtree: true,
    characterData: true,
    childList: true,
  })
})
await page.mouse.move(box.x + 6, box.y + 60)
await page.mouse.down()
// Moves are given inside the page, one a frame: the way from here to the browser takes longer than a frame.
const seconds = await page.evaluate(async left => {
  const grip = document.querySelector('[data-handle="holds.0.0"]')
  const begun = performance.now()
  for (let i = 1; performance.now() - begun < 4000; i++) {
    await new Promise(requestAnimationFrame)
    grip.dispatchEvent(
      new PointerEvent('pointermove', { bubbles: true, pointerId: 1, clientX: left + (i % 200), clientY: 300 }),
    )
  }
  return (performance.now() - begun) / 1000
}, box.x + 6)
const redrawn = await page.evaluate(() => window.redrawn)
await page.mouse.up()
console.log(
  `| results redrawn while a handle is dragged, ${ROWS.toLocaleString('en')} samples | ` +
    `${(redrawn / seconds).toFixed(0)} a second | 20 a second |`,
)
await browser.close()
server.kill()
rmSync(folder, { recursive: true, force: true })
process.exit(0)
