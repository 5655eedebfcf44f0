// npm run dev: sources with reload.
import { ensurePackages, must } from './ensure.mjs'

ensurePackages()
must('npx', ['nuxt', 'dev', '--host', '127.0.0.1', '--port', process.env.PORT ?? '4510'], {
  HYPOMET_DB: process.env.HYPOMET_DB ?? 'file:./data/dev/hypomet.db',
})
