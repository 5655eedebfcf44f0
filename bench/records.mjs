// Looking at records in the built application: a channel of 3.6 million samples, and ten thousand channels of six
// minutes.
import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import { chromium } from '@playwright/test'
import { CHANNELS, median, pause, scratch, server, writeTable } from './tables.mjs'

const folder = scratch()
const app = await server(folder, 4593)
async function imported(path) {
  const id = await app.freshTest()
  const { sha256 } = await app.call('POST', `/api/tests/${id}/files`, Readable.toWeb(createReadStream(path)), {
    'content-type': 'application/octet-stream',
    'x-file-name': 'table.csv',
  })
  let most = 0
  const watch = () => (most = Math.max(most, app.resident()))
  app.lagFrom()
  const begun = performance.now()
  const { jobId } = await app.call('POST', `/api/tests/${id}/imports`, {
    sha256,
    fileName: 'table.csv',
    channels: CHANNELS,
    end: 'ladder done',
  })
  const { healthJobId, datasetId } = await app.jobDone(jobId, watch)
  const loaded = performance.now()
  await app.jobDone(healthJobId, watch)
  const health = (performance.now() - loaded) / 1000
  await pause(200)
  return { id, datasetId, load: (loaded - begun) / 1000, health, late: app.lag(), watch, most: () => most }
}

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
/** When a canvas was last drawn on. */
await page.addInitScript(() => {
  const { clearRect } = window.CanvasRenderingContext2D.prototype
  window.CanvasRenderingContext2D.prototype.clearRect = function (...args) {
    window.lastDrawn = performance.now()
    return clearRect.apply(this, args)
  }
})
/** From an act to the frame that follows the drawing of what it asked the server for, ms. */
const drawn = act =>
  page.evaluate(async what => {
    const frame = () => new Promise(resolve => requestAnimationFrame(resolve))
    const asked = () => performance.getEntriesByType('resource')
    const before = asked().length
    const begun = performance.now()
    if (what.key) window.dispatchEvent(new KeyboardEvent('keydown', { key: what.key, bubbles: true }))
    else document.querySelectorAll('[aria-label="Channel list"] input[type=checkbox]')[what.box].click()
    while (asked().length === before || !(window.lastDrawn > asked().at(-1).responseEnd)) await frame()
    return performance.now() - begun
  }, act)

{
  const path = await writeTable(16, folder, { megabytes: Infinity, rows: 3_600_000 })
  const { datasetId } = await imported(path)
  await page.goto(`${app.base}/records/${datasetId}`)
  await page.waitForFunction(() => window.useNuxtApp?.().isHydrating === false)
  await page.waitForSelector('canvas[role=img]')
  await pause(500)
  const [first, zoom] = [[], []]
  for (let box = 3; box < 12; box++) {
    first.push(await drawn({ box }))
    await page.locator('[aria-label="Channel list"] input[type=checkbox]').nth(box).uncheck()
    await pause(200)
  }
  for (let i = 0; i < 12; i++) {
    zoom.push(await drawn({ key: '+' }))
    await pause(100)
  }
  console.log(
    `| what | measured | aim |\n|---|---|---|\n| another channel of 3,600,000 samples, from the click to its ` +
      `strip | ${median(first).toFixed(0)} ms | under 100 ms |\n| a zoom step, from the key to the redrawn strips in ` +
      `full detail | ${median(zoom).toFixed(0)} ms | under 50 ms |`,
  )
}
if (!process.env.SHORT) {
  const COLUMNS = 10_000
  const ROWS = 36_000
  // A ladder of six rungs, a minute each; every channel follows the load in its own measure.
  const path = await writeTable(COLUMNS, folder, {
    megabytes: Infinity,
    rows: ROWS,
    rate: 100,
    cell: (row, c, noise) => {
      const [rung, into] = [Math.floor(row / 6000), row % 6000]
      const level = rung - 1 + Math.min(1, into / 1000)
      return ((Math.max(0, level) * (1000 + c) + noise()) / 1000).toFixed(3)
    },
  })
  const { datasetId, load, health, late, watch, most } = await imported(path)
  const begun = performance.now()
  const channels = (await app.call('GET', `/api/datasets/${datasetId}`)).channels
  const listed = performance.now() - begun
  const steps = Array.from({ length: 6 }, (_, i) => ({ from: 60 * i + 12, to: 60 * i + 59 }))
  const { jobId } = await app.call('POST', `/api/datasets/${datasetId}/steps`, { guide: channels[0].id, steps })
  const table = await app.jobDone(jobId, watch)
  const tabled = (performance.now() - begun) / 1000
  const million = ((COLUMNS * ROWS) / 1e6).toFixed(0)
  const lines = [
    [
      `${COLUMNS.toLocaleString('en')} channels × 100 Hz × 6 min (${million} million samples): import`,
      `${load.toFixed(0)} s`,
      'minutes',
    ],
    ['… health of all', `${health.toFixed(0)} s`, 'minutes'],
    [`… steps of all (${table.rows.length} × ${table.steps.length})`, `${tabled.toFixed(0)} s`, 'minutes'],
    ['… resident at most', `${most().toFixed(0)} MB`, 'flat'],
    ['… event loop late by at most, while it imports and looks over', `${late.toFixed(0)} ms`, 'under 50 ms'],
    ['… the list of its channels, as the page asks for it', `${listed.toFixed(0)} ms`, ''],
  ]
  console.log(lines.map(cells => `| ${cells.join(' | ')} |`).join('\n'))
}
await browser.close()
app.end()
