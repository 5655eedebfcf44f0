// A 300 MB file from upload to looked-over channels, in the built application, beside pandas and DuckDB that merely read it.
import { spawn } from 'node:child_process'
import { createReadStream, createWriteStream, existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs'
import { once } from 'node:events'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { Readable } from 'node:stream'
import { ensureBuild } from '../scripts/ensure.mjs'

ensureBuild()
const { loadDemo } = await import('../.output/demo/load.mjs')
const folder = mkdtempSync(join(tmpdir(), 'hypomet-import-'))
const port = 4592
const base = `http://127.0.0.1:${port}`
const median = v => v.toSorted((a, b) => a - b)[v.length >> 1]
const pause = ms => new Promise(resolve => setTimeout(resolve, ms))
const TIMES = Number(process.env.TIMES ?? 5)

/** Counts of a 16-bit converter on slow waves with a little noise, three decimals, at 1 kHz. */
async function writeTable(path, columns, megabytes) {
  const out = createWriteStream(path)
  // No row of units: it would cost the yardsticks their numbers.
  out.write(['Time [s]', 'Load [kN]', 'Tip [mm]', ...Array.from({ length: columns - 3 }, (_, i) => `CH${i + 4} [V]`)].join(',') + '\n')
  let [bytes, seed, rows] = [0, 1, 0]
  const noise = () => ((seed = (seed * 1103515245 + 12345) & 0x7fffffff) % 7) - 3
  while (bytes < megabytes * 1e6) {
    const lines = []
    for (let i = 0; i < 200; i++, rows++) {
      const cells = [(rows / 1000).toFixed(3)]
      for (let c = 1; c < columns; c++) cells.push((Math.round(9000 * Math.sin(rows / 9000 + c) + noise()) / 1000).toFixed(3))
      lines.push(cells.join(','))
    }
    const text = lines.join('\n') + '\n'
    bytes += text.length
    if (!out.write(text)) await once(out, 'drain')
  }
  out.end()
  await once(out, 'finish')
  return rows
}

const server = spawn('node', [...(process.env.NODE_FLAGS?.split(' ') ?? []), '.output/server/index.mjs'], { stdio: 'ignore', env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: `file:${join(folder, 'bench.db')}` } })
process.on('exit', () => (server.kill(), rmSync(folder, { recursive: true, force: true })))
for (let up = false; !up; await pause(50)) up = await fetch(`${base}/api/health`).then(r => r.ok, () => false)
await loadDemo(base, join('demo', 'data'))
const call = async (method, path, body, headers = { 'content-type': 'application/json' }) => {
  const r = await fetch(base + path, { method, headers, ...(body === undefined ? {} : { body: typeof body === 'object' && !('getReader' in body) ? JSON.stringify(body) : body, duplex: 'half' }) })
  const text = await r.text()
  if (!r.ok) throw new Error(`${path}: ${text}`)
  return JSON.parse(text)
}
const { test: planned, revision } = await call('GET', '/api/tests/2')

async function freshTest() {
  const { id } = await call('POST', `/api/revisions/${revision.id}/tests`, { title: 'bench', plan: planned.plan })
  for (const item of (await call('GET', `/api/tests/${id}`)).ready.filter(i => i.state === 'open'))
    await call('PUT', `/api/tests/${id}/ready`, item.automatic === false ? { key: item.key, state: 'overridden', reason: 'bench' } : { key: item.key, state: 'done' })
  return id
}
async function jobDone(id, watch = () => {}) {
  for (;;) {
    const job = await call('GET', `/api/jobs/${id}`)
    watch()
    if (job.status === 'done') return job.result
    if (job.status !== 'running') throw new Error(JSON.stringify(job.error))
    await pause(20)
  }
}
const resident = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024
const databaseSize = () => readdirSync(folder).filter(f => f.startsWith('bench.db')).reduce((n, f) => n + statSync(join(folder, f)).size, 0)

// pandas and DuckDB need not live in the same Python.
const yards = Object.fromEntries([['pandas', process.env.PYTHON_PANDAS ?? '/usr/bin/python3'], ['duckdb', process.env.PYTHON_DUCKDB ?? 'python3']].map(([what, python]) => {
  const yard = spawn(python, ['bench/tables.py'], { stdio: ['pipe', 'pipe', 'inherit'] })
  return [what, { yard, answers: createInterface({ input: yard.stdout })[Symbol.asyncIterator]() }]
}))
async function yardstick(what, path) {
  yards[what].yard.stdin.write(JSON.stringify({ what, path }) + '\n')
  return JSON.parse((await yards[what].answers.next()).value).seconds
}

console.log('| file | rows | upload | import | health | pandas reads it | DuckDB (2 threads) | import + health against pandas | resident at most | slowest answer meanwhile | stored a sample |\n|---|---|---|---|---|---|---|---|---|---|---|')
for (const columns of (process.env.COLUMNS_OF ?? '64,2000').split(',').map(Number)) {
  const path = join(process.env.TABLES ?? folder, `table-${columns}.csv`)
  const megabytes = Number(process.env.MEGABYTES ?? 300)
  if (!existsSync(path)) await writeTable(path, columns, megabytes)
  const times = { upload: [], load: [], health: [], pandas: [], duckdb: [] }
  let [most, slowest, rows, stored] = [0, 0, 0, 0]
  for (let i = 0; i < TIMES; i++) {
    const id = await freshTest()
    const before = databaseSize()
    let begun = performance.now()
    const lap = () => {
      const took = performance.now() - begun
      begun = performance.now()
      return took / 1000
    }
    const { sha256 } = await call('POST', `/api/tests/${id}/files`, Readable.toWeb(createReadStream(path)), { 'content-type': 'application/octet-stream', 'x-file-name': `table-${columns}.csv` })
    times.upload.push(lap())
    const { jobId } = await call('POST', `/api/tests/${id}/imports`, { sha256, fileName: 'table.csv', channels: { t: { column: 'Time [s]', unit: 's' }, load: { column: 'Load [kN]', unit: 'kN' }, deflection: { column: 'Tip [mm]', unit: 'mm' } }, end: 'ladder done' })
    let asked = performance.now()
    const watch = () => {
      slowest = Math.max(slowest, performance.now() - asked - 20)
      most = Math.max(most, resident())
      asked = performance.now()
    }
    const { healthJobId } = await jobDone(jobId, watch)
    times.load.push(lap())
    await jobDone(healthJobId, watch)
    times.health.push(lap())
    rows = (await call('GET', `/api/tests/${id}`)).datasets[0].rows
    stored = (databaseSize() - before) / (rows * columns)
    for (const what of ['pandas', 'duckdb']) times[what].push(await yardstick(what, path))
  }
  const s = Object.fromEntries(Object.entries(times).map(([k, v]) => [k, v.some(x => x === null) ? null : median(v)]))
  const show = v => (v === null ? 'not there' : `${v.toFixed(1)} s`)
  console.log(`| ${columns} columns, ${megabytes} MB | ${rows} | ${show(s.upload)} | ${show(s.load)} | ${show(s.health)} | ${show(s.pandas)} | ${show(s.duckdb)} | ${s.pandas === null ? '–' : `${(s.pandas / (s.load + s.health)).toFixed(2)}×`} | ${most.toFixed(0)} MB | ${slowest.toFixed(0)} ms | ${stored.toFixed(2)} B |`)
}
for (const { yard } of Object.values(yards)) yard.stdin.end()
server.kill()
