// What the other scripts need first: packages, a build that is not stale.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'

/** Runs a command in the foreground; ends this process if it fails. */
export function must(command, args, env = {}) {
  const { status } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', ...env },
  })
  if (status !== 0) process.exit(status ?? 1)
}

export function ensurePackages() {
  const installed = 'node_modules/.package-lock.json'
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync('package-lock.json').mtimeMs - 1000) return
  console.log('Installing packages …')
  must('npm', ['ci'])
}

/** What Nuxt writes of its types: lint and unit tests read it, and a fresh clone has none. */
export function ensurePrepared() {
  if (!existsSync('.nuxt/tsconfig.app.json')) must('npx', ['nuxt', 'prepare'])
}

const SOURCES = [
  'app',
  'server',
  'core/src',
  'cli/src',
  'demo',
  'build-tools',
  'public',
  'nuxt.config.ts',
  'package-lock.json',
]

function newest(path) {
  if (!existsSync(path)) return 0
  const found = statSync(path)
  if (!found.isDirectory()) return found.mtimeMs
  return Math.max(found.mtimeMs, ...readdirSync(path).map(name => newest(join(path, name))))
}

export function ensureBuild() {
  const built = '.output/hypomet-built'
  if (existsSync(built) && statSync(built).mtimeMs > Math.max(...SOURCES.map(newest))) return
  console.log('Building …')
  must('npm', ['run', 'build', '--silent'])
}
