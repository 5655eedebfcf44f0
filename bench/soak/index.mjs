// npm run soak: what docs/security.md promises, for long. Names of runs choose some: npm run soak -- kills hostile
import { ensureBuild } from '../../scripts/ensure.mjs'
import { clients } from './clients.mjs'
import { clock } from './clock.mjs'
import { full } from './full.mjs'
import { hostile } from './hostile.mjs'
import { kills } from './kills.mjs'
import { locked } from './locked.mjs'
import { requests } from './requests.mjs'

const ALL = { hostile, locked, clock, full, requests, clients, kills }
ensureBuild()
const asked = process.argv.slice(2)
for (const name of asked.length > 0 ? asked : Object.keys(ALL)) {
  console.error(`— ${name}`)
  try {
    await ALL[name]()
  } catch (e) {
    console.log(`NOT  ${name} broke off: ${e.stack}`)
    process.exitCode = 1
  }
}
process.exit(process.exitCode)
