// Bundles and runs the benchmark of advice and explanations as it would run in production.
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import { must } from '../scripts/ensure.mjs'

const bundle = join(mkdtempSync(join(tmpdir(), 'hypomet-bench-')), 'advice.mjs')
await build({
  entryPoints: ['bench/advice.ts'],
  outfile: bundle,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  logLevel: 'warning',
  banner: { js: 'import { createRequire as __cr } from "node:module"; const require = __cr(import.meta.url);' },
})
must('node', [bundle])
