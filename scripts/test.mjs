// npm test: everything that must hold, in the order in which it is quickest to learn that it does not.
import { existsSync } from 'node:fs'
import { ensurePackages, must } from './ensure.mjs'

ensurePackages()
if (!process.env.CHROMIUM_PATH && !existsSync('/usr/bin/chromium')) {
  console.log('Installing Chromium for the browser tests …')
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) =>
    must(asRoot[0] ?? 'apt-get', asRoot.length > 0 ? ['apt-get', ...args] : args, { DEBIAN_FRONTEND: 'noninteractive' })
  apt('update', '-qq')
  apt('install', '-y', '-qq', '--no-install-recommends', 'chromium')
}
for (const step of ['lint', 'types', 'unit', 'build', 'e2e']) {
  console.log(`\n— ${step}`)
  must('npm', ['run', '--silent', step])
}
