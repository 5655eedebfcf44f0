// What the routes take and where they are, from the routes themselves: server/openapi.json (served at
// /api/openapi.json) and app/types/routes.ts, by which the page's calls are typed. `--check` only says whether both
// are current.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import * as h3 from 'h3'
import * as z from 'zod'
import { keepGenerated } from './generated.mjs'

const { version, dependencies, devDependencies } = JSON.parse(readFileSync('package.json', 'utf8'))
const METHODS = ['get', 'post', 'put', 'delete']

const routes = readdirSync('server/api', { recursive: true })
  .map(file => file.replaceAll('\\', '/'))
  .filter(file => file.endsWith('.ts'))
  .sort()
  .map(file => {
    const parts = file.replace(/\.ts$/, '').split('.')
    const method = parts.pop()
    if (!METHODS.includes(method)) throw new Error(`server/api/${file}: no method in its name`)
    const path = `/api/${parts.join('.')}`.replace(/\/index$/, '').replace(/\[(\w+)\]/g, '{$1}')
    return { file, path, method, source: readFileSync(`server/api/${file}`, 'utf8') }
  })

const inputs = await inputsOf(routes)

const codes = inputs.ERROR_CODES
const document = {
  openapi: '3.1.0',
  info: {
    title: 'Hypomet',
    version,
    description:
      'Quantities are SI numbers or { value, unit }. The person at the keyboard is named by the header ' +
      'x-hypomet-person (URI encoded).',
  },
  paths: {},
  components: { schemas: { Error: errorSchema() } },
}
for (const [i, route] of routes.entries()) {
  const at = (document.paths[route.path] ??= {})
  at[route.method] = operationOf(route, inputs[`r${i}`].input ?? {})
}

const lines = routes.map(
  ({ method, path, file }) =>
    `  '${method.toUpperCase()} ${path.replace(/\{\w+\}/g, ':')}': ` +
    `typeof import('../../server/api/${file.replace(/\.ts$/, '')}').default`,
)
const types = `// Made by \`npm run openapi\` from the files of server/api; types only.
export interface Routes {
${lines.join('\n')}
}
`

await keepGenerated('server/openapi.json', JSON.stringify(document), 'openapi')
await keepGenerated('app/types/routes.ts', types, 'openapi')

/** The schemas that each route was given, by loading the routes with the server's own helpers around them. */
async function inputsOf(all) {
  // Beside the packages, so that those left out of the bundle are found.
  const dir = mkdtempSync(join(resolve('node_modules'), '.hypomet-openapi-'))
  const outfile = join(dir, 'routes.mjs')
  const contents = [
    ...all.map(({ file }, i) => `export { default as r${i} } from ${JSON.stringify(`./server/api/${file}`)}`),
    `export { ERROR_CODES } from '@hypomet/core'`,
  ].join('\n')
  const utils = readdirSync('server/utils').map(file => `server/utils/${file}`)
  await build({
    stdin: { contents, resolveDir: '.', loader: 'ts' },
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    inject: utils,
    external: Object.keys({ ...dependencies, ...devDependencies }).filter(name => name !== '@hypomet/core'),
    logLevel: 'error',
    banner: { js: 'import { createRequire as __cr } from "node:module"; const require = __cr(import.meta.url);' },
  })
  Object.assign(globalThis, h3)
  return import(pathToFileURL(outfile)).finally(() => rmSync(dir, { recursive: true }))
}

function operationOf({ path, source }, { body, query }) {
  const summary = /\/\*\*\s*([^]*?)\s*\*\/\nexport default/.exec(source)?.[1].replace(/\n \* ?/g, ' ')
  const raw = /keepStream\(event\.node\.req|readRawBody\(|sentBytes\(|sentFile\(/.test(source)
  const type = /content-type',[^']*'([^']+)'/.exec(source)?.[1] ?? 'application/json'
  const parameters = [
    ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: name === 'id' ? { type: 'integer', minimum: 1 } : { type: 'string' },
    })),
    ...queryOf(query),
  ]
  const content = body
    ? { 'application/json': { schema: schemaOf(body) } }
    : raw && { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } }
  return {
    ...(summary && { summary }),
    ...(parameters.length > 0 && { parameters }),
    ...(content && { requestBody: { required: true, content } }),
    responses: {
      200: { description: 'Done', content: { [type]: {} } },
      default: {
        description: 'Refused',
        content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
      },
    },
  }
}

function queryOf(query) {
  if (!query) return []
  const { properties = {}, required = [] } = schemaOf(query)
  return Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }))
}

function schemaOf(schema) {
  const made = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })
  delete made.$schema
  return made
}

function errorSchema() {
  return {
    type: 'object',
    required: ['message'],
    properties: {
      message: { type: 'string', description: 'A plain sentence' },
      data: {
        type: 'object',
        properties: {
          code: { enum: Object.keys(codes) },
          path: { type: 'string' },
          file: { type: 'string' },
          row: { type: 'integer' },
          column: { type: 'string' },
        },
      },
    },
  }
}
