#!/usr/bin/env node
// The bundle starts in a fraction of a second; it is made by `npm ci` and by `npm run build`.
import { existsSync } from 'node:fs'
const bundle = new URL('../dist/hypomet.mjs', import.meta.url)
if (existsSync(bundle)) await import(bundle.href)
else {
  const { register } = await import('tsx/esm/api')
  register()
  await import('../src/main.ts')
}
