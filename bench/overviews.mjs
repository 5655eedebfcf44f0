// A thousand tests, 5,000 limits and predictions: how long pages of many tests take to answer, and how much they send.
import { mkdtempSync, rmSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { get } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createClient } from '@libsql/client'
import { build } from 'esbuild'
import { ensureBuild } from '../scripts/ensure.mjs'

const ARTICLES = 50
const SIZE = { articles: ARTICLES, testsEach: 1000 / ARTICLES, limitsEach: 50, predictionsEach: 50 }
const ROUNDS = 8

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
const port = 4596
const base = `http://127.0.0.1:${port}`
const ended = server => new Promise(resolve => (server.once('exit', resolve), server.kill('SIGTERM')))
async function started() {
  const env = { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: database }
  const server = spawn('node', ['.output/server/workers/front.mjs'], { stdio: 'ignore', env })
  for (;;) {
    const answer = await fetch(`${base}/api/health`).catch(() => null)
    if (answer?.ok) return server
    await new Promise(resolve => setTimeout(resolve, 50))
  }
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

const campaignId = (await json(`/api/campaigns/${slug}`)).id
const articleId = (await json(`/api/tests/${tests[7]}`)).article.id
const median = values => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]
/** As a browser asks: bytes as they were sent, compressed. */
async function timed(path) {
  const begun = performance.now()
  const answer = await new Promise(resolve => get(base + path, { headers: { 'accept-encoding': 'br' } }, resolve))
  let sent = 0
  for await (const part of answer) sent += part.length
  return { took: performance.now() - begun, sent }
}
/** As saves by others do: of the campaign, a test, a limit, a judgement in turn. */
const other = createClient({ url: database })
let saves = 0
const changed = () =>
  other.execute(
    [
      'update campaign set version = version + 1',
      `update test set title = title || '.' where id = ${tests[11]}`,
      `update design_limit set name = name || '.' where id = (select max(id) from design_limit)`,
      `update judgement set note = note || '.' where id = (select max(id) from judgement)`,
    ][saves++ % 4],
  )
console.log('| what | after a change | again | sent | aim |\n|---|---|---|---|---|')
for (const [what, path, aim] of [
  ['bench', '/api/bench', 300],
  ['campaign', `/api/campaigns/${slug}`, 300],
  ['article of 20 tests', `/api/articles/${articleId}`, 300],
  ['test', `/api/tests/${tests[7]}`, 300],
  ['register of limits', `/api/registers/limit?campaignId=${campaignId}`, 150],
  ['register of predictions', `/api/registers/prediction?campaignId=${campaignId}`, 150],
  ['search', '/api/search?q=hanger%20arm', 150],
  ['names for the palette', '/api/index', 150],
]) {
  const [anew, again] = [[], []]
  for (let i = 0; i < ROUNDS; i++) {
    await changed()
    anew.push(await timed(path))
    again.push(await timed(path))
  }
  const [slow, quick] = [anew, again].map(rounds => Math.round(median(rounds.map(r => r.took))))
  console.log(`| ${what} | ${slow} ms | ${quick} ms | ${Math.round(anew[0].sent / 1000)} kB | under ${aim} ms |`)
}
await ended(server)
rmSync(folder, { recursive: true, force: true })
