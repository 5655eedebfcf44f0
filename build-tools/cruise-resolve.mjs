// How the fence over imports (.dependency-cruiser.mjs) finds what Nuxt's own aliases mean.
import { fileURLToPath } from 'node:url'

const from = path => fileURLToPath(new URL(path, import.meta.url))

export default { resolve: { alias: { '~~': from('..'), '~': from('../app') } } }
