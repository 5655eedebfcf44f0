// Twenty people who open a record page every two seconds while a file of 300 MB is imported.
import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import { CHANNELS, writeTable } from '../tables.mjs'
import { line, pause, quantile, Soaked } from './server.mjs'

export async function clients() {
  const s = await new Soaked(4657).start()
  try {
    const slug = await s.demo()
    const { articles } = await s.call('GET', `/api/campaigns/${slug}`)
    const arm = articles.find(a => a.family === 'static')
    const tests = articles.flatMap(a => a.revisions.flatMap(r => r.tests.map(t => t.id)))
    const records = []
    for (const id of tests) records.push(...(await s.call('GET', `/api/tests/${id}`)).datasets.map(d => d.id))
    const { id } = await s.call('POST', `/api/revisions/${arm.revisions[0].id}/tests`, { title: 'Wide' })
    const path = await writeTable(64, s.folder)
    const sent = await fetch(`${s.base}/api/tests/${id}/files`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', 'x-file-name': 'table.csv', 'x-hypomet-person': 'Soak' },
      body: Readable.toWeb(createReadStream(path)),
      duplex: 'half',
    })
    const { sha256 } = await sent.json()
    const from = performance.now()
    const { jobId } = await s.call('POST', `/api/tests/${id}/imports`, {
      sha256,
      fileName: 'table.csv',
      channels: CHANNELS,
      end: 'ladder done',
    })
    let isOn = true
    const took = []
    const client = async n => {
      // They do not all come through the door at once.
      await pause(3000 * Math.random())
      for (let i = n; isOn; i++) {
        const at = performance.now()
        await (
          await fetch(`${s.base}/records/${records[i % records.length]}`, {
            headers: { cookie: 'hypomet-person=Soak' },
          })
        ).arrayBuffer()
        took.push(performance.now() - at)
        // Who has a page looks at it.
        await pause(1000 + 2000 * Math.random())
      }
    }
    const reading = Array.from({ length: 20 }, (_, n) => client(n))
    const job = await s.job(jobId)
    const imported = performance.now() - from
    isOn = false
    await Promise.all(reading)
    const at = p => `${Math.round(quantile(took, p))} ms`
    line(
      `20 clients, ${took.length} record pages, while 300 MB come (${(imported / 1000).toFixed(1)} s, ${job.status})`,
      `median ${at(0.5)}, 95 % ${at(0.95)}, worst ${at(1)}`,
      quantile(took, 0.95) < 1000 && job.status === 'done',
    )
  } finally {
    await s.kill()
  }
}
