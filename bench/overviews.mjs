// A thousand tests, 5,000 limits and predictions: how long pages of many tests take to answer, and how much they send.
import { rmSync } from 'node:fs'
import { get } from 'node:http'
import { createClient } from '@libsql/client'
import { thousandTests } from './thousand.mjs'

const ROUNDS = 8
const { base, slug, tests, folder, database, json, end } = await thousandTests(4596)

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
await end()
rmSync(folder, { recursive: true, force: true })
