// npm start: an empty or your own database, kept in the folder named by HYPOMET_FOLDER (data/ by default).
import { join } from 'node:path'
import { ensureBuild, ensurePackages } from './ensure.mjs'

ensurePackages()
ensureBuild()
const { serve } = await import('./serve.mjs')
const folder = process.env.HYPOMET_FOLDER ?? 'data'
const { base } = await serve({
  database: process.env.HYPOMET_DB ?? `file:${join(folder, 'hypomet.db')}`,
  usualPort: 4500,
})
console.log(`\nHypomet is at ${base}, its data in ${folder}/\nStop with Ctrl C.`)
