// npm run check: format, lint, types and unit tests side by side, for use while working. Says what failed, and that
// alone.
import { spawn } from 'node:child_process'
import { ensurePackages, ensurePrepared } from './ensure.mjs'

ensurePackages()
ensurePrepared()

const PARTS = {
  format: ['npx', ['prettier', '--check', '--cache', '--log-level', 'warn', '.']],
  lint: ['npx', ['eslint', '.', '--max-warnings', '0', '--cache', '--cache-location', 'node_modules/.cache/eslint/']],
  errors: ['npm', ['run', '--silent', 'errors', '--', '--check']],
  openapi: ['npm', ['run', '--silent', 'openapi', '--', '--check']],
  fences: ['npm', ['run', '--silent', 'fences']],
  types: ['npm', ['run', '--silent', 'types']],
  unit: ['npx', ['vitest', 'run', '--reporter=dot', '--project', 'core', '--project', 'app']],
}
const begun = performance.now()
const results = await Promise.all(
  Object.entries(PARTS).map(
    ([name, [command, args]]) =>
      new Promise(resolve => {
        let said = ''
        const child = spawn(command, args, { env: { ...process.env, FORCE_COLOR: '1' } })
        for (const stream of [child.stdout, child.stderr]) stream.on('data', text => (said += text))
        child.on('exit', code => {
          console.log(`${code === 0 ? 'ok  ' : 'FAIL'} ${name} (${Math.round((performance.now() - begun) / 1000)} s)`)
          if (code !== 0) console.log(said)
          resolve(code === 0)
        })
      }),
  ),
)
process.exit(results.every(Boolean) ? 0 : 1)
