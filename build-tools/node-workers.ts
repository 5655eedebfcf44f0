import { readdirSync } from 'node:fs'
import { basename, join, resolve } from 'node:path'
import { build } from 'esbuild'
import type { Plugin } from 'rollup'

/** Lets bundled CommonJS packages call `require` inside an ES module. */
export const REQUIRE_IN_MODULE =
  'import { createRequire as __createRequire } from "node:module"; const require = __createRequire(import.meta.url);'

/** Bundles each worker of a folder into `workers/<name>.mjs` beside the server, in development and in the build. */
export function nodeWorkers({ folder, external }: { folder: string; external: string[] }): Plugin {
  return {
    name: 'node-workers',
    async buildStart() {
      const root = resolve(folder)
      for (const file of readdirSync(root).filter(f => f.endsWith('.ts'))) {
        const bundle = await build({
          entryPoints: [join(root, file)],
          bundle: true,
          write: false,
          metafile: true,
          sourcemap: 'inline',
          platform: 'node',
          target: 'node20',
          format: 'esm',
          external,
          banner: { js: REQUIRE_IN_MODULE },
        })
        for (const input of Object.keys(bundle.metafile.inputs)) this.addWatchFile(resolve(input))
        this.emitFile({
          type: 'asset',
          fileName: `workers/${basename(file, '.ts')}.mjs`,
          source: bundle.outputFiles[0]!.text,
        })
      }
    },
  }
}
