import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { createClient } from '@libsql/client'
import { loadDemo } from '../demo/load'
import { expect, open, test } from './person'

const port = 18_000 + (process.pid % 4000)
const base = `http://127.0.0.1:${port}`
const folder = () => join(process.env['E2E_FOLDER']!, 'proofs')
const database = () => `file:${join(folder(), 'hypomet.db')}`

function front(more: Record<string, string> = {}): ChildProcess {
  return spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: database(), ...more },
  })
}
async function start(more: Record<string, string> = {}): Promise<ChildProcess> {
  const server = front(more)
  await expect(async () => expect((await fetch(`${base}/api/health`)).ok).toBe(true)).toPass({ timeout: 60_000 })
  return server
}
async function ended(server: ChildProcess): Promise<{ code: number | null; said: string }> {
  let said = ''
  server.stderr!.on('data', (d: Buffer) => (said += d.toString()))
  return { code: await new Promise(resolve => server.once('exit', resolve)), said }
}
const stop = async (server: ChildProcess) => {
  const gone = new Promise(resolve => server.once('exit', resolve))
  server.kill('SIGTERM')
  await gone
}
const command = (...args: string[]) =>
  spawnSync('node', ['cli/bin/hypomet.mjs', ...args], {
    encoding: 'utf8',
    env: { ...process.env, HYPOMET_SERVER: base },
  })

test('one owner; verified by one click, changed behind its back, backed up and restored', async ({ page, context }) => {
  let server = await start({ HYPOMET_BACKUPS: join(folder(), 'backups') })
  try {
    await loadDemo(base, join(import.meta.dirname, '../demo/data'), { specimens: false })
    await context.addCookies([{ name: 'hypomet-person', value: 'Ada', url: base }])
    const second = await ended(front({ PORT: String(port + 1) }))
    expect(second.code).toBe(1)
    expect(second.said).toContain(`process ${server.pid}`)

    await open(page, `${base}/proofs`)
    await page.getByRole('button', { name: 'Verify' }).click()
    await expect(page.locator('[data-verified]')).toHaveText('Everything was as it was written down.')
    await page.getByRole('button', { name: 'Make one now' }).click()
    await expect(page.getByText('None has been made yet.')).toBeHidden()

    const saved = join(folder(), 'saved.tar')
    expect(command('backup', saved).status).toBe(0)
    const back = join(folder(), 'back')
    expect(JSON.parse(command('restore', saved, back).stdout)).toMatchObject({ folder: back })
    expect(command('restore', saved, back).stderr).toContain('is not empty')

    const sql = createClient({ url: database() })
    await sql.execute("update reduction set by = 'Mallory' where id = (select max(id) from reduction)")
    sql.close()
    const found = command('verify')
    expect(found.status).toBe(3)
    expect(found.stdout).toContain('is kept by “Mallory”')
    await open(page, `${base}/proofs`)
    await expect(page.locator('[data-verified]')).toContainText('not as written down')
    await expect(page.getByRole('row', { name: /Mallory/ })).toBeVisible()
    await stop(server)

    server = await start({ HYPOMET_DB: `file:${join(back, 'hypomet.db')}` })
    await expect(async () => expect(command('verify', '--recompute').status).toBe(0)).toPass({ timeout: 60_000 })
  } finally {
    server.kill('SIGKILL')
  }
})

test('a newer database, and a file that is none, are refused with a sentence', async () => {
  const sql = createClient({ url: `file:${join(folder(), 'back', 'hypomet.db')}` })
  await sql.execute("insert into __drizzle_migrations (hash, created_at) values ('later', 99999999999999)")
  sql.close()
  const newer = await ended(front({ HYPOMET_DB: `file:${join(folder(), 'back', 'hypomet.db')}` }))
  expect(newer.code).toBe(1)
  expect(newer.said).toContain('of a newer Hypomet')
  const none = await ended(front({ HYPOMET_DB: `file:${join(folder(), 'saved.tar')}` }))
  expect(none.code).toBe(1)
  expect(none.said).toContain('The file is no database')
})

test('the door: other pages, long and odd bodies, and headers', async ({ baseURL }) => {
  const post = (path: string, body: string, headers: Record<string, string> = {}) =>
    fetch(baseURL + path, { method: 'POST', body, headers: { 'content-type': 'application/json', ...headers } })
  const code = async (answer: Promise<Response>) => {
    const a = await answer
    return `${a.status} ${((await a.json()) as { data?: { code?: string } }).data?.code ?? ''}`
  }
  const title = (n: number) => JSON.stringify({ title: 'x'.repeat(n), system: 'metric' })
  expect(await code(post('/api/campaigns', title(4), { origin: 'http://127.0.0.1:9999' }))).toMatch(/^403/)
  expect(await code(post('/api/campaigns', title(4), { 'sec-fetch-site': 'same-site' }))).toMatch(/^403/)
  expect(await code(post('/api/campaigns', title(4), { 'content-type': 'text/plain' }))).toBe('400 not-json')
  expect(await code(post('/api/campaigns', title(4000)))).toBe('422 too-large')
  expect(await code(post('/api/campaigns', title(2_000_000)))).toBe('422 too-large')
  expect(await code(post('/api/campaigns', '{"title":'))).toBe('400 not-json')
  expect(await code(post('/api/campaigns', title(4), { 'x-hypomet-person': '%E0%A4%A' }))).toBe('400 header-format')
  expect(await code(post('/api/files', 'a,b\n1,2\n', { 'x-file-name': '%zz' }))).toBe('400 header-format')
  const { headers } = await fetch(`${baseURL}/api/bench`)
  expect(headers.get('cache-control')).toBe('no-store')
  expect(headers.get('content-security-policy')).toContain("default-src 'none'")
  expect(headers.get('cross-origin-resource-policy')).toBe('same-origin')
})
