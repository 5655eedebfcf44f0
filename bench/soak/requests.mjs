// Ten thousand requests of every kind that a day brings: what stays in memory.
import { line, mb, Soaked } from './server.mjs'

const COUNT = Number(process.env.REQUESTS ?? 10_000)

export async function requests() {
  const s = await new Soaked(4651).start()
  try {
    const slug = await s.demo()
    const { articles } = await s.call('GET', `/api/campaigns/${slug}`)
    const tests = articles.flatMap(a => a.revisions.flatMap(r => r.tests.map(t => t.id)))
    const records = []
    for (const id of tests) records.push(...(await s.call('GET', `/api/tests/${id}`)).datasets.map(d => d.id))
    const at = (list, i) => list[i % list.length]
    const asked = [
      () => '/',
      () => `/campaigns/${slug}`,
      i => `/tests/${at(tests, i)}/plan`,
      i => `/tests/${at(tests, i)}/reduce`,
      i => `/tests/${at(tests, i)}/judge`,
      i => `/api/tests/${at(tests, i)}`,
      i => `/api/datasets/${at(records, i)}`,
      i => `/records/${at(records, i)}`,
      i => `/api/search?q=${at(['strop', 'panel', 'limit', 'x'], i)}`,
      i => `/api/registers/limit?campaign=${i % 2 ? slug : 'nowhere'}`,
      i => `/api/tests/${1e6 + i}`,
    ]
    const total = () => Object.values(s.resident()).reduce((n, b) => n + b, 0)
    let failed = 0
    const some = async (from, to) => {
      let next = from
      const client = async () => {
        while (next < to) {
          const i = next++
          const r = await fetch(s.base + asked[i % asked.length](Math.floor(i / asked.length)), {
            headers: { cookie: 'hypomet-person=Soak' },
          })
          await r.arrayBuffer()
          if (r.status >= 500) failed++
        }
      }
      await Promise.all([client(), client(), client(), client()])
    }
    await some(0, COUNT / 5)
    const early = total()
    await some(COUNT / 5, COUNT)
    const late = total()
    const grown = late / early - 1
    const words = `${mb(early)} after a fifth of them, ${mb(late)} after all (${(100 * grown).toFixed(1)} %)`
    line(`${COUNT} requests, resident memory of all processes`, words, grown < 0.1)
    line(`${COUNT} requests, answered by 500 and more`, failed, failed === 0)
  } finally {
    await s.kill()
  }
}
