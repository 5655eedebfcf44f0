// npm run demo: a fresh database with the made-up campaign, loaded through the same doors as anyone's data.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuild, ensurePackages } from './ensure.mjs'

ensurePackages()
ensureBuild()
const { serve } = await import('./serve.mjs')
const folder = process.env.HYPOMET_DEMO_FOLDER ?? join('data', 'demo')
rmSync(folder, { recursive: true, force: true })
const { base, server } = await serve({ database: `file:${join(folder, 'hypomet.db')}`, usualPort: 4520 })
try {
  const { loadDemo } = await import('../.output/demo/load.mjs')
  const slug = await loadDemo(base, join('demo', 'data'))
  console.log(`\nThe demo campaign is at ${base}/campaigns/${slug}\nStop with Ctrl C.`)
} catch (e) {
  console.error('The demo could not be loaded.', e)
  server.kill('SIGTERM')
}
