// A server on a database of a thousand tests, 5,000 limits and predictions, made from the demo's judged test.
import { mkdtempSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createClient } from '@libsql/client'
import { build } from 'esbuild'
import { answers } from './api.mjs'
import { ensureBuild } from '../scripts/ensure.mjs'

const ARTICLES = 50
const SIZE = { articles: ARTICLES, testsEach: 1000 / ARTICLES, limitsEach: 50, predictionsEach: 50 }

/** The server, the campaign's address, its tests' ids, and how it is ended. */
export async function thousandTests(port) {
  ensureBuild()
  const folder = mkdtempSync(join(tmpdir(), 'hypomet-bench-'))
  const bundle = join(folder, 'multiply.mjs')
  await build({
    entryPoints: ['server/test/multiply.ts'],
    outfile: bundle,
    bundle: true,
    platform: 'node',
    format: 'esm',
  })
  const { multiply } = await import(bundle)
  const { loadDemo } = await import('../.output/demo/load.mjs')
  const database = `file:${join(folder, 'bench.db')}`
  const base = `http://127.0.0.1:${port}`
  const ended = server => new Promise(resolve => (server.once('exit', resolve), server.kill('SIGTERM')))
  async function started() {
    const env = { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: database }
    const server = spawn('node', ['.output/server/workers/front.mjs'], { stdio: 'ignore', env })
    await answers(base)
    return server
  }
  let server = await started()
  process.on('exit', () => server.kill())
  const slug = await loadDemo(base, join('demo', 'data'))
  const json = async path => (await fetch(base + path)).json()
  const articles = (await json(`/api/campaigns/${slug}`)).articles
  const judged = articles.flatMap(a => a.revisions.flatMap(r => r.tests)).find(t => t.verdicts.length > 0)
  await ended(server)
  const client = createClient({ url: database })
  const tests = await multiply(client, judged.id, SIZE)
  client.close()
  server = await started()
  return { base, slug, tests, folder, database, server, json, end: () => ended(server) }
}
