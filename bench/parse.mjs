// Parsing alone: a numeric table from bytes to columns on two threads, beside DuckDB on two threads, in turn. Medians.
import { build } from 'esbuild'
import { closeSync, openSync, readSync, statSync } from 'node:fs'
import { once } from 'node:events'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { median, scratch, writeTable, yardsticks } from './tables.mjs'

const folder = scratch()
const script = join(folder, 'parse.mjs')
await build({
  entryPoints: ['bench/parse-thread.ts'],
  bundle: true,
  platform: 'node',
  format: 'esm',
  outfile: script,
  logLevel: 'error',
})
const yards = yardsticks()
const TIMES = Number(process.env.TIMES ?? 5)
console.log('| table | Hypomet, 2 threads | DuckDB, 2 threads | ratio |\n|---|---|---|---|')
for (const columns of [64, 2000]) {
  const path = await writeTable(columns, folder)
  const size = statSync(path).size
  const file = openSync(path, 'r')
  /** After the first line end at or behind a place. */
  const lineAfter = at => {
    const some = Buffer.alloc(1 << 17)
    const read = readSync(file, some, 0, some.length, at)
    return at + some.subarray(0, read).indexOf(10) + 1
  }
  const cuts = [lineAfter(0)]
  while (cuts.at(-1) < size) cuts.push(cuts.at(-1) + (8 << 20) >= size ? size : lineAfter(cuts.at(-1) + (8 << 20)))
  closeSync(file)
  const blocks = cuts.slice(1).map((to, i) => ({ from: cuts[i], to }))
  const threads = [0, 1].map(() => new Worker(script, { workerData: { path, width: columns } }))
  const [own, duck] = [[], []]
  for (let i = 0; i < TIMES; i++) {
    const begun = performance.now()
    await Promise.all(threads.map((t, k) => (t.postMessage(blocks.filter((_, b) => b % 2 === k)), once(t, 'message'))))
    own.push((performance.now() - begun) / 1000)
    duck.push(await yards.read('duckdb', path))
  }
  for (const t of threads) await t.terminate()
  const [a, b] = [median(own), duck.includes(null) ? null : median(duck)]
  console.log(
    `| ${columns} columns, ${(size / 1e6).toFixed(0)} MB | ${a.toFixed(2)} s, ${(size / 1e6 / a).toFixed(0)} MB/s ` +
      `| ${b === null ? 'not there' : `${b.toFixed(2)} s`} | ${b === null ? '–' : `${(b / a).toFixed(1)}×`} |`,
  )
}
yards.end()
