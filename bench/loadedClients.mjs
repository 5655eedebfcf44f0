// In a process of its own: twenty people who open the Bench and the campaign of a thousand tests, one after the other,
// and a file of 300 MB that is imported again and again; until it is told to end.
import { createReadStream } from 'node:fs'
import { get } from 'node:http'
import { Readable } from 'node:stream'
import { CHANNELS, writeTable } from './tables.mjs'

const [base, slug, importInto, folder] = process.argv.slice(2)
const CLIENTS = 20
const counts = { pages: 0, imports: 0 }
const asked = path =>
  new Promise((resolve, reject) => {
    get(base + path, { headers: { 'accept-encoding': 'br' } }, answer => {
      answer.resume()
      answer.on('end', resolve)
    }).on('error', reject)
  })
async function reads() {
  for (;;)
    for (const path of ['/', '/api/bench', `/campaigns/${slug}`, `/api/campaigns/${slug}`]) {
      await asked(path)
      counts.pages++
    }
}
const call = async (path, init) => {
  const r = await fetch(base + path, init)
  if (!r.ok) throw new Error(`${path}: ${await r.text()}`)
  return r.json()
}
async function imports() {
  const path = await writeTable(64, folder)
  process.send('ready')
  for (;;) {
    const { sha256 } = await call(`/api/tests/${importInto}/files`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', 'x-file-name': `table-${counts.imports}.csv` },
      body: Readable.toWeb(createReadStream(path)),
      duplex: 'half',
    })
    const { jobId } = await call(`/api/tests/${importInto}/imports`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ sha256, fileName: 'table.csv', channels: CHANNELS, end: 'ladder done' }),
    })
    for (;;) {
      const { status } = await call(`/api/jobs/${jobId}`)
      if (status !== 'running') break
      await new Promise(resolve => setTimeout(resolve, 200))
    }
    counts.imports++
  }
}
process.on('message', () => process.send(counts, () => process.exit(0)))
// What cannot be answered meanwhile is no reason to stop asking.
const again = what => what().catch(e => (console.error(e.message), setTimeout(() => again(what), 500)))
again(imports)
process.once('message', () => {})
await new Promise(resolve => setTimeout(resolve, 3000))
for (let i = 0; i < CLIENTS; i++) void again(reads)
