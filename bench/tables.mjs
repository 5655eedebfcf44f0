// What the benches of tables share: a made-up table, the yardsticks, a server with its event loop watched.
import { spawn } from 'node:child_process'
import { createWriteStream, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { once } from 'node:events'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'

export const median = v => v.toSorted((a, b) => a - b)[v.length >> 1]
export const pause = ms => new Promise(resolve => setTimeout(resolve, ms))
export const MEGABYTES = Number(process.env.MEGABYTES ?? 300)

export function scratch() {
  const folder = mkdtempSync(join(tmpdir(), 'hypomet-bench-'))
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }))
  return folder
}

/**
 * Counts of a 16-bit converter on slow waves with a little noise, three decimals; no row of units: it would cost the
 * yardsticks their numbers. Kept in TABLES where that is set.
 */
export async function writeTable(
  columns,
  folder,
  {
    megabytes = MEGABYTES,
    rate = 1000,
    rows: most = Infinity,
    cell = (row, column, noise) => (Math.round(9000 * Math.sin(row / 9000 + column) + noise()) / 1000).toFixed(3),
  } = {},
) {
  const path = join(process.env.TABLES ?? folder, `table-${columns}${rate === 1000 ? '' : `-${rate}`}.csv`)
  if (existsSync(path)) return path
  const out = createWriteStream(path)
  out.write(
    ['Time [s]', 'Load [kN]', 'Tip [mm]', ...Array.from({ length: columns - 3 }, (_, i) => `CH${i + 4} [V]`)].join(
      ',',
    ) + '\n',
  )
  let [bytes, seed, rows] = [0, 1, 0]
  const noise = () => ((seed = (seed * 1103515245 + 12345) & 0x7fffffff) % 7) - 3
  while (bytes < megabytes * 1e6 && rows < most) {
    const lines = []
    for (let i = 0; i < Math.min(200, most - rows + i); i++, rows++) {
      const cells = [(rows / rate).toFixed(3)]
      for (let c = 1; c < columns; c++) cells.push(cell(rows, c, noise))
      lines.push(cells.join(','))
    }
    const text = lines.join('\n') + '\n'
    bytes += text.length
    if (!out.write(text)) await once(out, 'drain')
  }
  out.end()
  await once(out, 'finish')
  return path
}

/** pandas and DuckDB need not live in the same Python. */
export function yardsticks() {
  const yards = Object.fromEntries(
    [
      ['pandas', process.env.PYTHON_PANDAS ?? '/usr/bin/python3'],
      ['duckdb', process.env.PYTHON_DUCKDB ?? 'python3'],
    ].map(([what, python]) => {
      const yard = spawn(python, ['bench/tables.py'], { stdio: ['pipe', 'pipe', 'inherit'] })
      return [what, { yard, answers: createInterface({ input: yard.stdout })[Symbol.asyncIterator]() }]
    }),
  )
  return {
    async read(what, path) {
      yards[what].yard.stdin.write(JSON.stringify({ what, path }) + '\n')
      return JSON.parse((await yards[what].answers.next()).value).seconds
    },
    end: () => Object.values(yards).forEach(({ yard }) => yard.stdin.end()),
  }
}

/**
 * The built application with the demo, a way to call it, and what it has held and how late it came since asked last.
 */
export async function server(folder, port) {
  const { ensureBuild } = await import('../scripts/ensure.mjs')
  ensureBuild()
  const { loadDemo, prepareTest } = await import('../.output/demo/load.mjs')
  const base = `http://127.0.0.1:${port}`
  const lagFile = join(folder, 'lag')
  const process_ = spawn(
    'node',
    [
      '--import',
      new URL('lag.mjs', import.meta.url).href,
      ...(process.env.NODE_FLAGS?.split(' ') ?? []),
      '.output/server/workers/front.mjs',
    ],
    {
      stdio: 'ignore',
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: String(port),
        LAG_FILE: lagFile,
        HYPOMET_DB: `file:${join(folder, 'bench.db')}`,
      },
    },
  )
  process.on('exit', () => process_.kill())
  for (let up = false; !up; await pause(50))
    up = await fetch(`${base}/api/health`).then(
      r => r.ok,
      () => false,
    )
  await loadDemo(base, join('demo', 'data'))
  const call = async (method, path, body, headers = { 'content-type': 'application/json' }) => {
    const r = await fetch(base + path, {
      method,
      headers,
      ...(body === undefined
        ? {}
        : { body: typeof body === 'object' && !('getReader' in body) ? JSON.stringify(body) : body, duplex: 'half' }),
    })
    const text = await r.text()
    if (!r.ok) throw new Error(`${path}: ${text}`)
    return JSON.parse(text)
  }
  const { test: planned, revision } = await call('GET', '/api/tests/2')
  let mark = 0
  return {
    base,
    call,
    end: () => process_.kill(),
    async freshTest() {
      const { id } = await call('POST', `/api/revisions/${revision.id}/tests`, { title: 'bench', plan: planned.plan })
      await prepareTest(base, id)
      return id
    },
    async jobDone(id, watch = () => {}) {
      for (;;) {
        const job = await call('GET', `/api/jobs/${id}`)
        watch()
        if (job.status === 'done') return job.result
        if (job.status !== 'running') throw new Error(JSON.stringify(job.error))
        await pause(20)
      }
    },
    /** MB of the front and the pages behind it. */
    resident: () => family(process_.pid).reduce((sum, pid) => sum + residentOf(pid), 0) / 1024,
    lagFrom: () => (mark = Date.now()),
    lag: () =>
      Math.max(
        ...readFileSync(lagFile, 'utf8')
          .trim()
          .split('\n')
          .map(l => l.split(' ').map(Number))
          .filter(([at]) => at >= mark)
          .map(([, ms]) => ms),
      ),
  }
}

export const CHANNELS = {
  t: { column: 'Time [s]', unit: 's' },
  load: { column: 'Load [kN]', unit: 'kN' },
  deflection: { column: 'Tip [mm]', unit: 'mm' },
}

const children = pid =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number)
const family = pid => [pid, ...children(pid).flatMap(family)]
const residentOf = pid => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0)
