// How the uncertainties of each family hold on drawn records with known truth: share within U, width, false passes.
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'

const RECORDS = Number(process.argv[2] ?? 400)
const LEVELS = [
  { share: 0.0002, phi: 0 },
  { share: 0.01, phi: 0 },
  { share: 0.01, phi: 0.9 },
]
/** Below that a promise is not kept, and above that limits are passed falsely. */
const [LEAST, MOST_FALSE] = [0.9, 0.05]

const outfile = join(mkdtempSync(join(tmpdir(), 'hypomet-bench-')), 'coverage.mjs')
await build({
  entryPoints: ['core/src/fixtures/coverage.ts'],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  // Some packages ask for Node’s own modules the old way.
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url)" },
})
const { coverageOf, SHAPES } = await import(outfile)

const percent = share => (100 * share).toFixed(1)
const misses = []
console.log(`${RECORDS} records a family and noise; noise as a share of the range, φ its correlation\n`)
console.log('| family | result | noise | covered | U over twice the error | bias | false passes |')
console.log('|---|---|---|---|---|---|---|')
for (const family of process.argv[3]?.split(',') ?? Object.keys(SHAPES))
  for (const level of LEVELS)
    for (const c of coverageOf(family, level, RECORDS)) {
      const noise = `${(100 * level.share).toFixed(2)} %${level.phi ? `, φ ${level.phi}` : ''}`
      const row = [c.family, c.key, noise, `${percent(c.covered)} %`, c.width.toFixed(2), c.bias.toFixed(2)]
      console.log(`| ${row.join(' | ')} | ${percent(c.falsePasses)} % |`)
      if (c.covered < LEAST || c.falsePasses > MOST_FALSE || c.none > 0) misses.push(`${c.family} ${c.key} at ${noise}`)
    }
console.log(misses.length === 0 ? '\nall hold' : `\nnot held: ${misses.join('; ')}`)
