// Bundles and runs the numeric benchmark as it would run in production. Wants python3 with numpy and scipy.
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { build } from 'esbuild'
import { must } from '../scripts/ensure.mjs'

const bundle = join(mkdtempSync(join(tmpdir(), 'hypomet-bench-')), 'numeric.mjs')
await build({
  entryPoints: ['bench/numeric.ts'],
  outfile: bundle,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  logLevel: 'warning',
  banner: { js: 'import { createRequire as __cr } from "node:module"; const require = __cr(import.meta.url);' },
})
must('node', [bundle], { HYPOMET_ORACLE: resolve('bench/oracle.py') })
