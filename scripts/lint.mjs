// npm run lint: form, rules, the fence over imports, and whether what is made from the sources is current.
import { spawn } from 'node:child_process'
import { ensurePackages, ensurePrepared, must } from './ensure.mjs'

ensurePackages()
ensurePrepared()
// The longest has a core of its own.
const rules = spawn('npx', ['eslint', '.', '--max-warnings', '0'], { stdio: 'inherit' })
const isOver = new Promise(resolve => rules.on('close', resolve))
process.on('exit', () => rules.kill())
must('npx', ['prettier', '--check', '--log-level', 'warn', '.'])
for (const [name, ...args] of [['fences'], ['errors', '--', '--check'], ['openapi', '--', '--check']])
  must('npm', ['run', '--silent', name, ...args])
process.exit((await isOver) ?? 1)
