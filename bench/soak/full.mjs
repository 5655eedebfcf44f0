// A disk that is full, and then a folder that may not be written to: at every door a sentence with a code.
import { spawnSync } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { line, ROOT, Soaked } from './server.mjs'

const mount = (...args) => spawnSync('mount', args, { encoding: 'utf8' })

export async function full() {
  const folder = mkdtempSync(join(tmpdir(), 'hypomet-full-'))
  if (mount('-t', 'tmpfs', '-o', 'size=120m', 'tmpfs', folder).status !== 0)
    return line('disk full, folder read-only', 'not tried: this needs a small disk, which only root can make', true)
  const s = new Soaked(4656, { folder })
  try {
    await s.start()
    const slug = await s.demo()
    const campaign = await s.call('GET', `/api/campaigns/${slug}`)
    const arm = campaign.articles.find(a => a.family === 'static')
    const reduced = arm.revisions.flatMap(r => r.tests).find(t => t.results)
    const { test, reductions } = await s.call('GET', `/api/tests/${reduced.id}`)
    const campaignId = campaign.id ?? campaign.campaign.id
    const { rows: limits } = await s.call('GET', `/api/registers/limit?campaignId=${campaignId}`)
    const { quantity } = limits.find(r => r.articleId === arm.id && r.entered?.unit === 'mm')
    const { id: open } = await s.call('POST', `/api/revisions/${arm.revisions[0].id}/tests`, {
      title: 'Open',
      plan: test.plan,
    })
    const { id } = await s.call('POST', `/api/revisions/${arm.revisions[0].id}/tests`, {
      title: 'Full',
      plan: test.plan,
    })
    const { prepareTest } = await import(join(ROOT, '.output/demo/load.mjs'))
    await prepareTest(s.base, id)
    const send = async (method, path, body, type = 'application/json') => {
      const r = await fetch(s.base + path, {
        method,
        headers: { 'content-type': type, 'x-hypomet-person': 'Soak', 'x-file-name': 'a.csv' },
        body: type === 'application/json' ? JSON.stringify(body) : body,
      })
      const text = await r.text()
      return {
        status: r.status,
        said: (() => {
          try {
            return JSON.parse(text)
          } catch {
            return { text: text.slice(0, 100) }
          }
        })(),
      }
    }
    const rows = [
      'Time [s],Load [kN],Way [mm]',
      ...Array.from({ length: 200_000 }, (_, i) => `${i / 100},${i % 97},${i % 61}`),
    ].join('\n')
    const limit = name => ({
      campaignId: campaign.id ?? campaign.campaign.id,
      creates: [
        {
          articleId: arm.id,
          quantity,
          name,
          comparator: 'atMost',
          entered: { value: 40, unit: 'mm' },
        },
      ],
      changes: [],
      removes: [],
    })
    const doors = {
      'a limit': () => send('POST', '/api/registers/limit', limit('One more')),
      'a plan': () => send('PUT', `/api/tests/${open}/plan`, { plan: test.plan }),
      'a reduction': () =>
        send('POST', `/api/tests/${reduced.id}/reduce`, { settings: reductions[0].settings, keep: true }),
      'a file': () =>
        send('POST', `/api/tests/${id}/files`, rows + '\n'.repeat(Math.random() * 1000), 'application/octet-stream'),
      'a file on the bench': () => send('POST', '/api/files', rows, 'application/octet-stream'),
      'a run': () => send('POST', `/api/tests/${id}/runs`, { source: 'rig', pace: 20, seed: 1 }),
      'a backup': () => send('GET', '/api/proofs/backup', undefined),
    }
    const through = async what => {
      const plain = []
      const passed = []
      for (const [door, ask] of Object.entries(doors)) {
        const { status, said } = await ask()
        if (status < 400) passed.push(door)
        else if (!said.data?.code?.startsWith('store-') && status >= 500)
          plain.push(`${door}: ${status} ${JSON.stringify(said).slice(0, 160)}`)
        else if (status >= 500 || said.data?.code?.startsWith('store-')) continue
        else plain.push(`${door}: ${status} ${JSON.stringify(said).slice(0, 160)}`)
      }
      const alive = (await fetch(`${s.base}/campaigns/${slug}`, { headers: { cookie: 'hypomet-person=Soak' } })).status
      line(
        `${what}: doors that say it in words, of ${Object.keys(doors).length}`,
        plain.length ? plain.join('; ') : `all (${passed.length} needed no room: ${passed.join(', ')})`,
        plain.length === 0,
      )
      line('… pages are still shown', alive, alive === 200)
    }
    const filling = join(folder, 'filling')
    spawnSync('dd', ['if=/dev/zero', `of=${filling}`, 'bs=64k'], { stdio: 'ignore' })
    await through('disk full')
    rmSync(filling)
    const again = await send('POST', '/api/registers/limit', limit('after'))
    line('… with room again, without a restart', again.status, again.status === 200)
    const findings = await s.verify()
    line(
      '… found by a verification afterwards',
      findings.length ? JSON.stringify(findings[0]) : 0,
      findings.length === 0,
    )
  } finally {
    await s.kill().catch(() => {})
    spawnSync('umount', ['-l', folder])
  }
  await readOnly()
}

/** One who may read a folder and not write to it. */
async function readOnly() {
  const folder = mkdtempSync(join(tmpdir(), 'hypomet-read-'))
  chmodSync(folder, 0o755)
  const { status, stderr } = spawnSync('node', [join(ROOT, '.output/server/workers/front.mjs')], {
    encoding: 'utf8',
    uid: 65_534,
    timeout: 20_000,
    env: { ...process.env, HOST: '127.0.0.1', PORT: '4658', HYPOMET_DB: `file:${join(folder, 'hypomet.db')}` },
  })
  line(
    'folder read-only: the start says so and ends with 1',
    `${status}, ${stderr.trim()}`,
    status === 1 && /cannot be written to/.test(stderr),
  )
}
