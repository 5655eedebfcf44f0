// A 300 MB file from upload to looked-over channels, in the built application, beside pandas and DuckDB that merely
// read it.
import { createReadStream, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { CHANNELS, median, MEGABYTES, scratch, server, writeTable, yardsticks } from './tables.mjs'

const folder = scratch()
const TIMES = Number(process.env.TIMES ?? 5)
const app = await server(folder, 4592)
const yards = yardsticks()
const databaseSize = () =>
  readdirSync(folder)
    .filter(f => f.startsWith('bench.db'))
    .reduce((n, f) => n + statSync(join(folder, f)).size, 0)

console.log(
  '| file | rows | upload | import | health | pandas reads it | DuckDB (2 threads) | import + health against ' +
    'pandas | resident at most | event loop late by at most | stored a sample ' +
    '|\n|---|---|---|---|---|---|---|---|---|---|---|',
)
for (const columns of (process.env.COLUMNS_OF ?? '64,2000').split(',').map(Number)) {
  const path = await writeTable(columns, folder)
  const times = { upload: [], load: [], health: [], pandas: [], duckdb: [] }
  let [most, late, rows, stored] = [0, 0, 0, 0]
  for (let i = 0; i < TIMES; i++) {
    const id = await app.freshTest()
    const before = databaseSize()
    let begun = performance.now()
    const lap = () => {
      const took = performance.now() - begun
      begun = performance.now()
      return took / 1000
    }
    const { sha256 } = await app.call('POST', `/api/tests/${id}/files`, Readable.toWeb(createReadStream(path)), {
      'content-type': 'application/octet-stream',
      'x-file-name': `table-${columns}.csv`,
    })
    times.upload.push(lap())
    app.lagFrom()
    const watch = () => (most = Math.max(most, app.resident()))
    const { jobId } = await app.call('POST', `/api/tests/${id}/imports`, {
      sha256,
      fileName: 'table.csv',
      channels: CHANNELS,
      end: 'ladder done',
    })
    const { healthJobId } = await app.jobDone(jobId, watch)
    times.load.push(lap())
    await app.jobDone(healthJobId, watch)
    times.health.push(lap())
    late = Math.max(late, app.lag())
    rows = (await app.call('GET', `/api/tests/${id}`)).datasets[0].rows
    stored = (databaseSize() - before) / (rows * columns)
    for (const what of ['pandas', 'duckdb']) times[what].push(await yards.read(what, path))
  }
  const s = Object.fromEntries(Object.entries(times).map(([k, v]) => [k, v.some(x => x === null) ? null : median(v)]))
  const show = v => (v === null ? 'not there' : `${v.toFixed(1)} s`)
  console.log(
    `| ${columns} columns, ${MEGABYTES} MB | ${rows} | ${show(s.upload)} | ${show(s.load)} | ${show(s.health)} | ` +
      `${show(s.pandas)} | ${show(s.duckdb)} | ` +
      `${s.pandas === null ? '–' : `${(s.pandas / (s.load + s.health)).toFixed(2)}×`} | ${most.toFixed(0)} MB | ` +
      `${late.toFixed(0)} ms | ${stored.toFixed(2)} B |`,
  )
}
yards.end()
app.end()
