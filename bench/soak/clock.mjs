// The machine's clock steps back by an hour in the middle of a live run.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { line, pause, ROOT, Soaked } from './server.mjs'

export async function clock() {
  const s = new Soaked(4655)
  const setBy = join(s.folder, 'clock')
  writeFileSync(setBy, '0')
  s.env = { NODE_OPTIONS: `--import ${join(ROOT, 'bench/soak/shiftedClock.mjs')}`, SOAK_CLOCK: setBy }
  await s.start()
  try {
    await s.demo()
    const { prepareTest } = await import(join(ROOT, '.output/demo/load.mjs'))
    const campaign = (await s.call('GET', '/api/campaigns'))[0]
    const arm = campaign.articles.find(a => a.name.includes('arm') || a.name.includes('Arm')) ?? campaign.articles[0]
    const one = await s.call('GET', `/api/tests/${arm.revisions[0].tests[0].id}`)
    const { id } = await s.call('POST', `/api/revisions/${arm.revisions[0].id}/tests`, {
      title: 'Clock',
      plan: one.test.plan,
    })
    await prepareTest(s.base, id)
    const { runId } = await s.call('POST', `/api/tests/${id}/runs`, { source: 'rig', pace: 1, seed: 3 })
    const begun = performance.now()
    await pause(4000)
    writeFileSync(setBy, '-3600000')
    await pause(4000)
    await s.call('POST', `/api/runs/${runId}/command`, { command: 'mark', note: 'after the clock' })
    await s.call('POST', `/api/runs/${runId}/command`, { command: 'abort' })
    const lasted = (performance.now() - begun) / 1000
    for (let i = 0; i < 200; i++) {
      const { runs } = await s.call('GET', `/api/tests/${id}`)
      if (runs[0].status === 'closed') break
      await pause(200)
    }
    const { runs, datasets } = await s.call('GET', `/api/tests/${id}`)
    line('clock back by an hour in mid-run: the run', runs[0].status, runs[0].status === 'closed')
    line('… rows in the record', `${datasets[0].rows} of ${lasted.toFixed(1)} s`, datasets[0].rows >= (lasted - 1) * 10)
    const record = await s.call('GET', `/api/datasets/${datasets[0].id}`)
    const ids = record.channels.map(c => c.id).slice(0, 3)
    const asked = `/api/datasets/${datasets[0].id}/export?channels=${ids.join(',')}&from=0&to=1e9`
    const csv = await (await fetch(s.base + asked)).text()
    const times = csv
      .trim()
      .split('\n')
      .slice(1)
      .map(l => Number(l.split(',')[0]))
    const gaps = times.slice(1).map((t, i) => t - times[i])
    const isEven = times.length === datasets[0].rows && gaps.every(g => g > 0 && g < 0.25)
    line('… seconds from row to row', `${Math.min(...gaps).toFixed(3)} to ${Math.max(...gaps).toFixed(3)}`, isEven)
    const findings = await s.verify()
    line(
      '… found by a verification afterwards',
      findings.length ? JSON.stringify(findings[0]) : 0,
      findings.length === 0,
    )
  } finally {
    await s.kill()
  }
}
