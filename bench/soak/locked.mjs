// Another program holds the database for half a minute in the middle of a live run.
import { createServer } from 'node:net'
import { createClient } from '@libsql/client'
import WebSocket from 'ws'
import { panelOf } from '../panel.mjs'
import { line, pause, quantile, ROOT, Soaked } from './server.mjs'

const SECONDS = Number(process.env.LOCKED ?? 30)
const RATE = 100

export async function locked() {
  const s = await new Soaked(4653).start()
  let timer
  const logger = createServer(socket => {
    let n = 0
    socket.on('error', () => {})
    timer = globalThis.setInterval(() => {
      socket.write(`${(n / RATE).toFixed(2)},${feed.load},1\n`)
      feed.sent = ++n
    }, 1000 / RATE)
  })
  const feed = { load: 0.5, sent: 0 }
  try {
    await s.demo()
    await new Promise(resolve => logger.listen(0, '127.0.0.1', resolve))
    const { prepareTest } = await import(`${ROOT}/.output/demo/load.mjs`)
    const { panel, plan } = await panelOf(s.call)
    const limits = Array.from({ length: 20 }, (_, i) => 10 + i)
    const { id } = await s.call('POST', `/api/revisions/${panel.id}/tests`, {
      title: 'locked',
      plan: {
        ...plan,
        rate: { value: RATE, unit: 'Hz' },
        rungs: [
          { target: 0, hold: { value: 1, unit: 's' } },
          { target: { value: 1, unit: 'kN' }, hold: { value: 600, unit: 's' } },
        ],
        watch: limits.map(value => ({ kind: 'limit', role: 'load', value: { value, unit: 'N' }, action: 'warn' })),
        channels: plan.channels.filter(c => c.role === 'load' || c.role === 'deflection'),
      },
    })
    await prepareTest(s.base, id)
    const { runId } = await s.call('POST', `/api/tests/${id}/runs`, {
      source: 'stream',
      setUp: {
        where: { kind: 'tcp', host: '127.0.0.1', port: logger.address().port },
        delimiter: ',',
        names: ['t', 'load', 'tip'],
        channels: {
          t: { column: 't', unit: 's' },
          load: { column: 'load', unit: 'N' },
          deflection: { column: 'tip', unit: 'mm' },
        },
      },
    })
    const socket = new WebSocket(`${s.base.replace('http', 'ws')}/_live?run=${runId}`)
    let hear = () => {}
    socket.onmessage = m => (JSON.parse(m.data).events ?? []).forEach(e => hear(e))
    await new Promise(resolve => (socket.onopen = resolve))
    await pause(2000)
    const other = createClient({ url: s.database })
    const held = await other.transaction('write')
    const until = performance.now() + SECONDS * 1000
    const warned = []
    for (const value of limits) {
      if (performance.now() > until - 2000) break
      const from = performance.now()
      const heard = new Promise(
        resolve => (hear = e => (e.kind === 'watch' || e.kind === 'warn' ? resolve() : undefined)),
      )
      // The half newton that the line began with is its zero.
      feed.load = value + 0.9
      await Promise.race([heard, pause(5000)])
      warned.push(performance.now() - from)
      await pause((SECONDS * 1000) / limits.length / 2)
    }
    const asked = performance.now()
    const aborted = new Promise(resolve => (hear = e => e.kind === 'abort' && resolve(performance.now())))
    const answer = s.call('POST', `/api/runs/${runId}/command`, { command: 'abort' })
    const heardAfter = (await Promise.race([aborted, pause(5000).then(() => Infinity)])) - asked
    await answer
    await pause(Math.max(0, until - performance.now()))
    await held.rollback()
    other.close()
    const sent = feed.sent
    feed.load = 0.5
    await pause(1000)
    await s.call('POST', `/api/runs/${runId}/command`, { command: 'stop', note: 'over' }).catch(() => {})
    for (let i = 0; i < 100; i++) {
      const { runs } = await s.call('GET', `/api/tests/${id}`)
      if (runs[0].status === 'closed') break
      await pause(200)
    }
    const { runs, datasets } = await s.call('GET', `/api/tests/${id}`)
    const rows = datasets[0]?.rows ?? 0
    line(
      `locked for ${SECONDS} s: from a sample to its watch rule, of ${warned.length}`,
      `median ${quantile(warned, 0.5).toFixed(0)} ms, at most ${Math.max(...warned).toFixed(0)} ms`,
      Math.max(...warned) < 100,
    )
    line('… from the abort to another console', `${heardAfter.toFixed(0)} ms`, heardAfter < 100)
    line(
      '… rows in the record, of lines sent until the lock was let go',
      `${rows} of ${sent}`,
      runs[0].status === 'closed' && rows >= sent,
    )
    const findings = await s.verify()
    line('… found by a verification afterwards', findings.length, findings.length === 0)
  } finally {
    clearInterval(timer)
    logger.close()
    await s.kill()
  }
}
