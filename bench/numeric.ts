/* The numeric core against numpy and scipy, interleaved in one run, medians of five. Wants python3 with both. */
import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'
import { evaluateRecord } from '../core/src/expression/record'
import { evaluator } from '../core/src/expression/evaluate'
import { parse } from '../core/src/expression/parse'
import { plainButterflies } from '../core/src/kernels/butterflies'
import { butterworth } from '../core/src/signal/butterworth'
import { filterZeroPhase } from '../core/src/signal/sections'
import { buildPyramid } from '../core/src/signal/pyramid'
import { welch } from '../core/src/signal/welch'
import { SeededRandom } from '../core/src/statistics/random'
import { monteCarlo } from '../core/src/uncertainty/monteCarlo'

const oracle = spawn(process.env['PYTHON'] ?? '/usr/bin/python3', [process.env['HYPOMET_ORACLE']!], {
  stdio: ['pipe', 'pipe', 'inherit'],
})
const answers = createInterface({ input: oracle.stdout })[Symbol.asyncIterator]()

async function yardstick(what: string, n: number): Promise<number> {
  oracle.stdin.write(JSON.stringify({ what, n }) + '\n')
  return (JSON.parse((await answers.next()).value as string) as { seconds: number }).seconds
}

const median = (v: number[]): number => v.toSorted((a, b) => a - b)[v.length >> 1]!
const seconds = (work: () => unknown): number => {
  const begun = performance.now()
  work()
  return (performance.now() - begun) / 1000
}

async function against(title: string, what: string, n: number, work: () => unknown, aim: string): Promise<void> {
  const [own, theirs]: [number[], number[]] = [[], []]
  // Until the engine has compiled what is hot: a server has been running for longer than that.
  for (let warm = 0; warm < 0.5;) warm += seconds(work)
  for (let i = 0; i < 5; i++) {
    theirs.push(await yardstick(what, n))
    own.push(seconds(work))
  }
  const [a, b] = [median(own), median(theirs)]
  console.log(
    `| ${title} | ${(a * 1000).toFixed(0)} ms | ${(b * 1000).toFixed(0)} ms | ${(b / a).toFixed(2)} | ${aim} |`,
  )
}

const random = new SeededRandom(1)
const noise = (n: number) => Float64Array.from({ length: n }, () => random.normal())

console.log('| what | Hypomet | yardstick | yardstick / Hypomet | aim |\n|---|---|---|---|---|')
const x = noise(1e7)
const sections = butterworth({ kind: 'low', order: 4, cutoff: 25, sampleRate: 1000 })
await against(
  'zero-phase 4th order, 1e7 samples (scipy sosfiltfilt)',
  'filter',
  1e7,
  () => filterZeroPhase(sections, x),
  '≥ 1.0',
)
await against('Welch, 1e7 samples, 4096 a segment (scipy welch)', 'welch', 1e7, () => welch(x, 1000, 4096), '≥ 1.5')
await against(
  'the same without compiled kernels',
  'welch',
  1e7,
  () => welch(x, 1000, 4096, plainButterflies(4096)),
  '≥ 0.5',
)
const long = Float32Array.from({ length: 1e8 }, (_, i) => Math.sin(i) * i)
const levels = buildPyramid(long)
await against(
  'minimum/maximum pyramid of 1e8 float32, all levels (numpy copy of the same)',
  'copy',
  1e8,
  () => buildPyramid(long, levels),
  '≥ 0.5',
)
const channels = { a: noise(1e6), b: noise(1e6), c: noise(1e6) }
await against(
  '(a + b)/2 − c·0.3, 1e6 samples (numpy)',
  'expression',
  1e6,
  () => evaluateRecord('(a + b)/2 - c*0.3', { channels, interval: 0.001 }),
  '≥ 0.6',
)

const names = Array.from({ length: 10 }, (_, i) => `q${i}`)
const model = evaluator(parse(`q0*q1/(q2 + q3) + sqrt(abs(q4*q5)) - q6*q7^2 + q8/q9`), names)
const inputs = names.map((name, i) => ({ name, value: i + 1, u: 0.01 * (i + 1), dof: Infinity }))
const runs = Array.from({ length: 5 }, () => seconds(() => monteCarlo(model, inputs, { draws: 100_000 })))
console.log(`| Monte Carlo, ten inputs, 1e5 draws | ${(median(runs) * 1000).toFixed(0)} ms | – | – | < 500 ms |`)
oracle.stdin.end()
