// npm run lint: form, rules, the fence over imports, and whether what is made from the sources is current.
import { ensurePackages, ensurePrepared, must } from './ensure.mjs'

ensurePackages()
ensurePrepared()
must('npx', ['prettier', '--check', '--log-level', 'warn', '.'])
must('npx', ['eslint', '.', '--max-warnings', '0'])
for (const [name, ...args] of [['fences'], ['errors', '--', '--check'], ['openapi', '--', '--check']])
  must('npm', ['run', '--silent', name, ...args])
