// Files that lie, one after the other through the door, with a small import and a reduction beside each.
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import { line, mb, pause, quantile, ROOT, Soaked } from './server.mjs'

const SMALL = [
  'Time [s],Load [kN],Way [mm]',
  ...Array.from({ length: 200 }, (_, i) => `${i / 10},${i / 20},${i / 40}`),
].join('\n')
const CHANNELS = {
  t: { column: 'Time [s]', unit: 's' },
  load: { column: 'Load [kN]', unit: 'kN' },
  deflection: { column: 'Way [mm]', unit: 'mm' },
}

async function files() {
  const outfile = join(mkdtempSync(join(tmpdir(), 'hostile-')), 'hostile.mjs')
  await build({
    entryPoints: [join(ROOT, 'server/test/hostile/index.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
  })
  return (await import(outfile)).HOSTILE
}

export async function hostile() {
  const all = await files()
  const s = await new Soaked(4652).start()
  try {
    const slug = await s.demo()
    const { articles } = await s.call('GET', `/api/campaigns/${slug}`)
    const arm = articles.find(a => a.family === 'static')
    const reduced = arm.revisions.flatMap(r => r.tests).find(t => t.results)
    const { reductions } = await s.call('GET', `/api/tests/${reduced.id}`)
    const { id: testId } = await s.call('POST', `/api/revisions/${arm.revisions[0].id}/tests`, { title: 'Strangers' })
    const send = async bytes => {
      const r = await fetch(`${s.base}/api/tests/${testId}/files`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream', 'x-file-name': 'sent.dat', 'x-hypomet-person': 'Soak' },
        body: bytes,
      })
      return { status: r.status, said: await r.json() }
    }
    const beside = async () => {
      const from = performance.now()
      const { said } = await send(SMALL)
      const { jobId } = await s.call('POST', `/api/tests/${testId}/imports`, {
        sha256: said.sha256,
        fileName: 'small.csv',
        channels: CHANNELS,
        end: 'ladder done',
      })
      const [job] = await Promise.all([
        s.job(jobId),
        s.call('POST', `/api/tests/${reduced.id}/reduce`, { settings: reductions[0].settings, keep: false }),
      ])
      if (job.status !== 'done') throw new Error(`a small import beside it ended as ${job.status}`)
      return performance.now() - from
    }
    const took = []
    const waited = []
    let most = 0
    let isOn = true
    const watch = (async () => {
      while (isOn) {
        most = Math.max(most, s.resident()['jobs.mjs'] ?? 0)
        await pause(20)
      }
    })()
    const odd = []
    for (const { name, make, rows } of all) {
      const bytes = make()
      const from = performance.now()
      const [{ status, said }, besides] = await Promise.all([
        send(bytes).then(r => (took.push(performance.now() - from), r)),
        beside(),
      ])
      waited.push(besides)
      if (process.env.VERBOSE)
        console.log(name, Math.round(took.at(-1)), status, said.data?.code ?? 'looked at', mb(most))
      if (status >= 500 || (status !== 200 && !said.data?.code) || (rows !== undefined && status !== 200))
        odd.push(`${name}: ${status} ${JSON.stringify(said).slice(0, 200)}`)
    }
    isOn = false
    await watch
    const ms = list => `median ${Math.round(quantile(list, 0.5))} ms, at most ${Math.round(Math.max(...list))} ms`
    line(`${all.length} hostile files, until each is answered`, ms(took), Math.max(...took) < 5000)
    line('… a small import and a reduction beside each', ms(waited), Math.max(...waited) < 5000)
    line('… resident memory of the process that looks at files, at most', mb(most), most < 500 * 2 ** 20)
    line('… neither read as they should be nor refused in words', odd.length ? odd.join('; ') : 0, odd.length === 0)
  } finally {
    await s.kill()
  }
}
