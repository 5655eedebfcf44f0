import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { expect, open, test } from './person'

// Below the ports that a system gives to outgoing connections: one of those may be taken for a moment.
const port = 12_000 + (process.pid % 6000)
const base = `http://127.0.0.1:${port}`

async function start(database = 'killed.db'): Promise<ChildProcess> {
  const server = spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      HOST: '127.0.0.1',
      PORT: String(port),
      HYPOMET_DB: `file:${join(process.env['E2E_FOLDER']!, database)}`,
    },
  })
  await expect(async () => expect((await fetch(`${base}/api/health`)).ok).toBe(true)).toPass({ timeout: 60_000 })
  return server
}

const post = (path: string, body: object) =>
  fetch(base + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })

interface RunRow {
  id: number
  status: string
  end: string | null
}
const runs = async (testId: number) =>
  (await (await fetch(`${base}/api/tests/${testId}`)).json()) as { runs: RunRow[]; datasets: { rows: number }[] }

test('a server killed in mid-run keeps all but the last second; the run can be resumed or closed', async ({
  page,
  context,
}) => {
  let server = await start()
  try {
    await loadDemo(base, join(import.meta.dirname, '../demo/data'), { specimens: false })
    await context.addCookies([{ name: 'hypomet-person', value: 'Ada', url: base }])
    const { runId } = (await (await post('/api/tests/2/runs', { source: 'rig', pace: 1, seed: 5 })).json()) as {
      runId: number
    }
    const begun = Date.now()
    await new Promise(resolve => setTimeout(resolve, 4000))
    server.kill('SIGKILL')
    const lasted = (Date.now() - begun) / 1000
    await new Promise(resolve => server.once('exit', resolve))
    server = await start()
    expect((await runs(2)).runs[0]).toMatchObject({ id: runId, status: 'interrupted' })

    await open(page, `${base}/tests/2/run`)
    await page.getByRole('button', { name: 'Go on from the last sample' }).click()
    await expect(page.getByText(/^Rung 1 of 10/)).toBeVisible()
    server.kill('SIGKILL')
    await new Promise(resolve => server.once('exit', resolve))
    server = await start()
    await open(page, `${base}/tests/2/run`)
    await page.getByRole('button', { name: 'Close with what was recorded' }).click()
    await expect(page.getByRole('cell', { name: 'closed early' })).toBeVisible()
    const after = await runs(2)
    expect(after.runs[0]!.status).toBe('closed')
    // Ten samples a second, and less than one second of them lost in each of the two kills.
    expect(after.datasets[0]!.rows).toBeGreaterThan((lasted - 1) * 10)
  } finally {
    server.kill('SIGKILL')
  }
})

test(
  'a server killed in mid-import shows nothing of it, and goes on with it by itself; one that is stopped ' +
    'leaves nothing',
  async () => {
    test.slow()
    let server = await start('import.db')
    try {
      await loadDemo(base, join(import.meta.dirname, '../demo/data'), { specimens: false })
      const rows = 900_000
      const text = [
        'Time [s],Load [kN],Tip [mm],A,B,C',
        ...Array.from({ length: rows }, (_, i) =>
          [
            (i / 1000).toFixed(3),
            ((i % 977) / 100).toFixed(2),
            ((i % 613) / 10).toFixed(1),
            i % 7,
            i % 11,
            i % 13,
          ].join(','),
        ),
      ].join('\n')
      const { sha256 } = (await (
        await fetch(`${base}/api/tests/2/files`, {
          method: 'POST',
          headers: { 'content-type': 'application/octet-stream' },
          body: text,
        })
      ).json()) as { sha256: string }
      const channels = {
        t: { column: 'Time [s]', unit: 's' },
        load: { column: 'Load [kN]', unit: 'kN' },
        deflection: { column: 'Tip [mm]', unit: 'mm' },
      }
      const begin = async () =>
        (
          (await (
            await post('/api/tests/2/imports', { sha256, fileName: 'long.csv', channels, end: 'ladder done' })
          ).json()) as { jobId: number }
        ).jobId
      const job = async (id: number) =>
        (await (await fetch(`${base}/api/jobs/${id}`)).json()) as { status: string; progress: number }
      const until = async (id: number, holds: (j: { status: string; progress: number }) => boolean) => {
        for (let i = 0; i < 2000 && !holds(await job(id)); i++) await new Promise(resolve => setTimeout(resolve, 10))
      }
      const before = (await runs(2)).datasets.length

      const stopped = await begin()
      await until(stopped, j => j.progress > 0.1)
      await post(`/api/jobs/${stopped}/stop`, {})
      await until(stopped, j => j.status !== 'running')
      expect((await job(stopped)).status).toBe('cancelled')

      const killed = await begin()
      await until(killed, j => j.progress > 0.2)
      expect((await job(killed)).status).toBe('running')
      server.kill('SIGKILL')
      await new Promise(resolve => server.once('exit', resolve))
      server = await start('import.db')
      // It may already have come to its end: until then nothing of it shows.
      const shown = (await runs(2)).datasets
      expect(shown.length === before || shown.some(d => d.rows === rows)).toBe(true)
      await until(killed, j => j.status !== 'running')
      expect(await job(killed)).toMatchObject({ status: 'done' })
      const after = (await runs(2)).datasets
      expect([after.length, after[0]!.rows]).toEqual([before + 1, rows])
    } finally {
      server.kill('SIGKILL')
    }
  },
)

test('it will not start on any other address', async () => {
  const server = spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: {
      ...process.env,
      HOST: '0.0.0.0',
      PORT: String(port + 1),
      HYPOMET_DB: `file:${join(process.env['E2E_FOLDER']!, 'other.db')}`,
    },
  })
  let said = ''
  server.stderr!.on('data', (d: Buffer) => {
    said += d.toString()
  })
  expect(await new Promise(resolve => server.once('exit', resolve))).toBe(1)
  expect(said).toContain('listens on 127.0.0.1 only')
})
