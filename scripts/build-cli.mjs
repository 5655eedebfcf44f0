// Bundles the command so that it starts without compiling anything.
import { build } from 'esbuild'
import { chmodSync } from 'node:fs'

await build({
  entryPoints: ['cli/src/main.ts'],
  outfile: 'cli/dist/hypomet.mjs',
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  minifySyntax: true,
  logLevel: 'warning',
  banner: { js: 'import { createRequire as __cr } from "node:module"; const require = __cr(import.meta.url);' },
})
chmodSync('cli/bin/hypomet.mjs', 0o755)
