// The application, the command and the demo loader, each as what is run in the end.
import { writeFileSync } from 'node:fs'
import { build } from 'esbuild'
import { must } from './ensure.mjs'

must('npx', ['nuxt', 'build'])
must('node', ['scripts/build-cli.mjs'])
await build({
  entryPoints: ['demo/load.ts', 'demo/sample.ts'],
  outdir: '.output/demo',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  logLevel: 'warning',
})
writeFileSync('.output/hypomet-built', '')
