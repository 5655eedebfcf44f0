import { rmSync } from 'node:fs'

export default () => rmSync(process.env['E2E_FOLDER']!, { recursive: true, force: true })
