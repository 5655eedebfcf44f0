import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { article, campaign, limits, revisions, sensors, type SensorName } from './scenario'

const PERSON = 'Mara Lindqvist'

/** Loads the demo through the same doors that a person's browser uses, so that what is seen is really computed. */
export async function loadDemo(base: string, folder: string, today = new Date()): Promise<string> {
  const api = client(base)
  const { weeksToDue, ...about } = campaign
  const due = new Date(today.getTime() + weeksToDue * 7 * 86_400_000).toISOString().slice(0, 10)
  const made = await api.post<{ id: number; slug: string }>('/api/campaigns', { ...about, due })
  const sensorIds = await addSensors(api, today)
  let articleId = 0
  let parentId: number | null = null
  for (const { test, ...revision } of revisions) {
    if (articleId === 0) {
      const created = await api.post<{ id: number; revision: { id: number } }>('/api/articles', { ...article, campaignId: made.id, revision })
      articleId = created.id
      parentId = created.revision.id
      for (const limit of limits) await api.post(`/api/articles/${articleId}/limits`, limit)
    } else parentId = (await api.post<{ id: number }>(`/api/articles/${articleId}/revisions`, { ...revision, parentId })).id
    const plan = { ...test.plan, channels: test.plan.channels.map(({ sensor, ...c }) => ({ ...c, sensorId: sensorIds[sensor as SensorName] })) }
    const { id: testId } = await api.post<{ id: number }>(`/api/revisions/${parentId}/tests`, { title: test.title, plan })
    await makeReady(api, testId)
    await importFile(api, testId, join(folder, test.file), test.file, test.end)
    if ('joined' in test) await joinRecord(api, testId, folder, test.joined)
    await api.post(`/api/tests/${testId}/reduce`, { settings: null, keep: true })
    await api.post(`/api/tests/${testId}/judge`, test.judgement)
  }
  return made.slug
}

async function addSensors(api: Client, today: Date): Promise<Record<SensorName, number>> {
  const ids: Record<string, number> = {}
  for (const [key, sensor] of Object.entries(sensors)) {
    const calibrationDue = new Date(today.getTime() + 200 * 86_400_000).toISOString().slice(0, 10)
    ids[key] = (await api.post<{ id: number }>('/api/sensors', { ...sensor, calibrationDue })).id
  }
  return ids as Record<SensorName, number>
}

interface Item { key: string; state: string; automatic?: boolean }

async function makeReady(api: Client, testId: number): Promise<void> {
  const { ready } = await api.get<{ ready: Item[] }>(`/api/tests/${testId}`)
  for (const item of ready.filter(i => i.state === 'open'))
    await api.put(`/api/tests/${testId}/ready`, item.automatic === false ? { key: item.key, state: 'overridden', reason: 'The only sensor in the house for this place; its uncertainty is carried.' } : { key: item.key, state: 'done' })
}

type Joined = { file: string; clockOffset: number; twin: { of: string; column: string; tolerance: number } }

/** The file of a second logger of the same run, and the pair of channels that ought to agree. */
async function joinRecord(api: Client, testId: number, folder: string, { file, clockOffset, twin }: Joined): Promise<void> {
  const { datasets } = await api.get<{ datasets: { id: number }[] }>(`/api/tests/${testId}`)
  const main = datasets[0]!.id
  await importFile(api, testId, join(folder, file), file, '', { joins: main, clockOffset })
  const { channels } = await api.get<{ channels: { id: number; role: string; name: string }[] }>(`/api/datasets/${main}`)
  await api.post(`/api/datasets/${main}/pairs`, { a: channels.find(c => c.role === twin.of)!.id, b: channels.find(c => c.name === twin.column)!.id, tolerance: twin.tolerance })
}

async function importFile(api: Client, testId: number, path: string, fileName: string, end: string, joined?: { joins: number; clockOffset: number }): Promise<void> {
  const { sha256, preview } = await api.upload<{ sha256: string; preview: { guess: { t: unknown }; delimiter: string; headerRow: number } }>(`/api/tests/${testId}/files`, readFileSync(path), fileName)
  const { jobId } = await api.post<{ jobId: number }>(`/api/tests/${testId}/imports`, joined ? { sha256, fileName, channels: { t: preview.guess.t }, reading: { delimiter: preview.delimiter, headerRow: preview.headerRow }, end: 'ladder done', ...joined } : { sha256, fileName, channels: preview.guess, end })
  for (;;) {
    const job = await api.get<{ status: string; error: { message: string } | null }>(`/api/jobs/${jobId}`)
    if (job.status === 'done') return
    if (job.status === 'failed') throw new Error(`${fileName}: ${job.error?.message}`)
    await new Promise(r => setTimeout(r, 50))
  }
}

type Client = ReturnType<typeof client>

function client(base: string) {
  async function call<T>(method: string, path: string, body?: BodyInit, headers: Record<string, string> = {}): Promise<T> {
    const response = await fetch(base + path, { method, headers: { 'x-hypomet-person': encodeURIComponent(PERSON), ...headers }, ...(body === undefined ? {} : { body }) })
    const text = await response.text()
    if (!response.ok) throw new Error(`${method} ${path}: ${text}`)
    return JSON.parse(text) as T
  }
  const json = { 'content-type': 'application/json' }
  return {
    get: <T>(path: string) => call<T>('GET', path),
    post: <T>(path: string, body: unknown) => call<T>('POST', path, JSON.stringify(body), json),
    put: <T>(path: string, body: unknown) => call<T>('PUT', path, JSON.stringify(body), json),
    upload: <T>(path: string, bytes: Uint8Array, fileName: string) => call<T>('POST', path, new Uint8Array(bytes), { 'content-type': 'application/octet-stream', 'x-file-name': encodeURIComponent(fileName) }),
  }
}
