// docs/errors.md from the table of codes in the core. `--check` only says whether the file is current.
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import { keepGenerated } from './generated.mjs'

const outfile = join(mkdtempSync(join(tmpdir(), 'hypomet-errors-')), 'codes.mjs')
await build({ entryPoints: ['core/src/errorCodes.ts'], outfile, format: 'esm', bundle: true })
const { ERROR_CODES } = await import(pathToFileURL(outfile))

const rows = Object.entries(ERROR_CODES).map(([code, [status, meaning]]) => `| \`${code}\` | ${status} | ${meaning} |`)
const written = `# Errors

Made by \`npm run errors\` from \`core/src/errorCodes.ts\`. Every error has a code, a plain sentence and a place:
\`path\` (a key of a setup or body, \`channels.load\`), \`file\`, \`row\` (from 1) and \`column\`. A route answers
\`{ message, data: { code, …place } }\` with the status named here; the command line writes the same as JSON.

| code | status | meaning |
| --- | --- | --- |
${rows.join('\n')}
`
await keepGenerated('docs/errors.md', written, 'errors')
