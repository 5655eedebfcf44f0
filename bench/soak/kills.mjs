// A hundred times: something is going on, every process is killed at a random moment, and begun anew. Nothing that was
// answered is lost, nothing half done shows, and the trail holds.
import { existsSync, readdirSync, rmSync } from 'node:fs'
import { spawn, spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { createClient } from '@libsql/client'
import { line, pause, ROOT, Soaked } from './server.mjs'

const KILLS = Number(process.env.KILLS ?? 100)
const RATE = 10

/** The same moments every time. */
function dice(seed) {
  let s = seed
  return () => ((s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0), s / 2 ** 32)
}
const table = rows =>
  ['Time [s],Load [kN],Way [mm]', ...Array.from({ length: rows }, (_, i) => `${i / 100},${i % 97},${i % 61}`)].join(
    '\n',
  )

export async function kills() {
  const s = await new Soaked(4654).start()
  const random = dice(7)
  const lost = []
  const counts = {}
  const refused = new Set()
  try {
    const slug = await s.demo()
    const campaign = await s.call('GET', `/api/campaigns/${slug}`)
    const arm = campaign.articles.find(a => a.family === 'static')
    const reduced = arm.revisions.flatMap(r => r.tests).find(t => t.results)
    const { test, reductions } = await s.call('GET', `/api/tests/${reduced.id}`)
    const { settings } = reductions[0]
    const [{ id: sizedId }] = [reduced]
    const quantity = (
      await s.call('GET', `/api/registers/limit?campaignId=${campaign.id ?? campaign.campaign.id}`)
    ).rows.find(r => r.articleId === arm.id && r.entered?.unit === 'mm').quantity
    const big = table(300_000)
    const acknowledged = { limits: new Map(), reductions: new Set(), revisions: new Set(), datasets: new Set() }
    const { prepareTest } = await import(join(ROOT, '.output/demo/load.mjs'))
    const fresh = async () => {
      const { id } = await s.call('POST', `/api/revisions/${arm.revisions[0].id}/tests`, {
        title: 'Killed',
        plan: test.plan,
      })
      await prepareTest(s.base, id)
      return id
    }
    const works = {
      /** Limits one after the other: each that was answered is there. */
      async limits(n) {
        for (let i = 0; ; i++) {
          const name = `Kill ${n}.${i}`
          await s.call('POST', '/api/registers/limit', {
            campaignId: campaign.id ?? campaign.campaign.id,
            creates: [
              {
                articleId: arm.id,
                quantity,
                name,
                comparator: 'atMost',
                entered: { value: 40 + i, unit: 'mm' },
              },
            ],
            changes: [],
            removes: [],
          })
          acknowledged.limits.set(name, 40 + i)
        }
      },
      async reduction() {
        for (;;) {
          const { id } = await s.call('POST', `/api/tests/${reduced.id}/reduce`, { settings, keep: true })
          acknowledged.reductions.add(id)
        }
      },
      async change(n, state) {
        for (let i = 0; ; i++) {
          const label = `K${n}.${i}`.slice(0, 12)
          const made = await s.call('POST', `/api/tests/${sizedId}/accept`, { sizes: { capThickness: 0.0041 }, label })
          acknowledged.revisions.add(made.revisionId ?? made.id ?? made.revision?.id)
          state.isAnswered = true
        }
      },
      async import() {
        const id = await fresh()
        const sent = await fetch(`${s.base}/api/tests/${id}/files`, {
          method: 'POST',
          headers: { 'content-type': 'application/octet-stream', 'x-file-name': 'big.csv', 'x-hypomet-person': 'Soak' },
          body: big,
        })
        const { sha256 } = await sent.json()
        const { jobId, datasetId } = await s.call('POST', `/api/tests/${id}/imports`, {
          sha256,
          fileName: 'big.csv',
          channels: {
            t: { column: 'Time [s]', unit: 's' },
            load: { column: 'Load [kN]', unit: 'kN' },
            deflection: { column: 'Way [mm]', unit: 'mm' },
          },
          end: 'ladder done',
        })
        acknowledged.datasets.add(datasetId)
        await s.job(jobId)
      },
      async backup(_, state) {
        const file = join(s.folder, 'saved.tar')
        rmSync(file, { force: true })
        while (!state.isOver) {
          const child = spawn('node', [join(ROOT, 'cli/bin/hypomet.mjs'), 'backup', file], {
            env: { ...process.env, HYPOMET_SERVER: s.base },
            stdio: 'ignore',
          })
          await new Promise(resolve => child.once('exit', resolve))
        }
      },
      async run(n, state) {
        state.testId = await fresh()
        const { runId } = await s.call('POST', `/api/tests/${state.testId}/runs`, { source: 'rig', pace: 1, seed: n })
        state.runId = runId
        state.begun = performance.now()
      },
    }
    const names = Object.keys(works)
    for (let n = 0; n < KILLS; n++) {
      const name = names[n % names.length]
      const state = {}
      const wait = 100 + random() * (name === 'import' ? 2500 : name === 'change' ? 8000 : 2000)
      const at = works[name](n, state).catch(e => {
        // The connection breaks off with the server; what the server itself refuses is a fault of this run.
        if (e.message !== 'fetch failed') refused.add(`${name}: ${e.message.slice(0, 200)}`)
      })
      if (name === 'run') while (state.begun === undefined) await pause(20)
      // A server that has just begun takes seconds to its first change: every other kill comes after one was answered.
      const until = performance.now() + 30_000
      if (name === 'change' && n % 2) while (!state.isAnswered && performance.now() < until) await pause(20)
      await (name === 'run' ? pause(wait) : Promise.race([at, pause(wait)]))
      const lasted = state.begun === undefined ? 0 : (performance.now() - state.begun) / 1000
      await s.kill()
      state.isOver = true
      await at
      await s.start()
      counts[name] = (counts[name] ?? 0) + 1
      if (name === 'run') {
        const before = (await s.call('GET', `/api/tests/${state.testId}`)).runs[0]
        if (before?.status !== 'interrupted') lost.push(`run ${n} is ${before?.status}`)
        await s.call('POST', `/api/runs/${state.runId}/close`, {})
        const { datasets } = await s.call('GET', `/api/tests/${state.testId}`)
        const rows = datasets[0]?.rows ?? 0
        if (rows < (lasted - 1) * RATE) lost.push(`run ${n}: ${rows} rows of ${lasted.toFixed(2)} s`)
      }
      if (name === 'backup') {
        const file = join(s.folder, 'saved.tar')
        const halves = readdirSync(s.folder).filter(f => f === 'saved.tar')
        if (halves.length > 0 && existsSync(file)) {
          const to = join(s.folder, `back-${n}`)
          const { status, stderr } = spawnSync('node', [join(ROOT, 'cli/bin/hypomet.mjs'), 'restore', file, to], {
            encoding: 'utf8',
          })
          if (status !== 0) lost.push(`backup ${n}: ${stderr}`)
          rmSync(to, { recursive: true, force: true })
        }
      }
      if (n % 10 === 9) console.error(`${n + 1} kills`)
    }
    const { rows } = await s.call('GET', `/api/registers/limit?campaignId=${campaign.id ?? campaign.campaign.id}`)
    for (const [name, value] of acknowledged.limits)
      if (rows.find(r => r.name === name)?.entered.value !== value) lost.push(`limit ${name}`)
    const stored = createClient({ url: s.database })
    const { rows: keptRows } = await stored.execute('select id from reduction')
    stored.close()
    const kept = new Set(keptRows.map(r => Number(r.id)))
    for (const id of acknowledged.reductions) if (!kept.has(id)) lost.push(`reduction ${id}`)
    const after = await s.call('GET', `/api/campaigns/${slug}`)
    const revisions = new Set(after.articles.flatMap(a => a.revisions.map(r => r.id)))
    for (const id of acknowledged.revisions) if (id && !revisions.has(id)) lost.push(`revision ${id}`)
    const findings = await s.verify()
    const kinds = Object.entries(counts).map(([k, v]) => `${v} ${k}`)
    line(
      `${KILLS} kills (${kinds.join(', ')})`,
      `${lost.length} things lost or half there ${lost.join('; ')}`,
      lost.length === 0,
    )
    const of = ['limits', 'reductions', 'revisions'].map(what => `${acknowledged[what].size} ${what}`).join(', ')
    line('… refused meanwhile', refused.size ? [...refused].join('; ') : 0, refused.size === 0)
    line(
      '… answered before a kill and there afterwards',
      of,
      Object.values(acknowledged).every(a => a.size > 0),
    )
    line(
      '… found by a verification afterwards',
      findings.length ? JSON.stringify(findings.slice(0, 3)) : 0,
      findings.length === 0,
    )
  } finally {
    await s.kill()
  }
}
