import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { dayAfter, localDay, siUnit, type Kind } from '@hypomet/core'
import { articles } from './articles'
import { constants, LAMINATE, replacements } from './constants'
import { lessons } from './lessons'
import { actions, people, tasks } from './people'
import { specimens } from './specimens'
import { type DemoSpecimen } from './demoSpecimen'
import { furtherPlans, staticArticles } from './stages'
import {
  armPredictions,
  article,
  begun,
  campaign,
  limits,
  planned,
  revisions,
  sensors,
  type SensorName,
  armSizing,
} from './scenario'

const PERSON = 'Mara Lindqvist'

type Row = Record<string, unknown>
type Kept = Row & { id: number; version: number }

/**
 * Loads the demo through the same doors that a person's browser uses, so that what is seen is really computed. Without
 * `specimens` it ends with the arms and what waits at each stage.
 */
export async function loadDemo(
  base: string,
  folder: string,
  { today = new Date(), specimens: isWhole = true } = {},
): Promise<string> {
  const api = client(base)
  const on = (days: number) => dayAfter(localDay(today), days)
  const { weeksToDue, ...about } = campaign
  const { id: campaignId, slug } = await api.post<{ id: number; slug: string }>('/api/campaigns', {
    ...about,
    due: on(weeksToDue * 7),
  })
  const books = registers(api, campaignId)

  await books.addMissing('person', 'name', people)
  const laminate = await addConstants(api, books)
  const sensorIds = await addSensors(books, on)
  const planOf = (plan: { channels: readonly { sensor: SensorName }[] }) => ({
    ...plan,
    channels: plan.channels.map(({ sensor, ...c }) => ({ ...c, sensorId: sensorIds[sensor] })),
  })

  const revisionIds: Record<string, number> = {}
  let articleId: number | null = null
  let parentId: number | null = null
  let findingReductionId: number | null = null
  for (const { test, facts, ...about } of revisions) {
    const revision: Row = { ...about, facts: factsOf(facts), constants: laminate, parentId, findingReductionId }
    if (articleId === null) {
      const created: Made = await api.post<Made>('/api/articles', { ...article, campaignId, revision })
      articleId = created.id
      parentId = created.revision.id
      await books.add(
        'limit',
        limits.map(l => ({ ...l, articleId })),
      )
      await api.put(`/api/articles/${articleId}/sizing`, armSizing)
    } else parentId = await books.addOne('revision', { ...revision, articleId })
    revisionIds[`${article.name} ${about.label}`] = parentId
    await books.add(
      'prediction',
      armPredictions
        .filter(p => p.revision === about.label)
        .map(({ revision: _, ...p }) => ({ ...p, revisionId: parentId })),
    )
    const { plan, file, end, judgement, ...head } = test
    const { id: testId }: { id: number } = await api.post<{ id: number }>(`/api/revisions/${parentId}/tests`, {
      title: head.title,
      fixture: head.fixture,
      method: head.method,
      cost: head.cost,
      plan: planOf(plan),
    })
    if ('answers' in test) await answer(api, books, testId, test.answers)
    await answer(api, books, testId)
    await release(api, testId)
    await makeReady(api, testId)
    await importFile(api, testId, join(folder, file), file, end)
    if ('joined' in test) await joinRecord(api, testId, folder, test.joined)
    findingReductionId = (await api.post<{ id: number }>(`/api/tests/${testId}/reduce`, { settings: null, keep: true }))
      .id
    await sign(api, testId, judgement)
    // What the first arm taught is there when the second is planned.
    await books.addMissing('lesson', 'title', lessons)
  }
  const { plan, revision, answers, inDays, ...head } = planned
  const { id: plannedId } = await api.post<{ id: number }>(
    `/api/revisions/${revisionIds[`${article.name} ${revision}`]}/tests`,
    { ...head, plan: planOf(plan), plannedOn: on(inDays) },
  )
  await answer(api, books, plannedId, answers)
  // A first version was released and its gauges begun; then the carriage came with rails of its own.
  await release(api, plannedId)
  for (const [key, reading] of begun)
    await api.put(
      `/api/tests/${plannedId}/ready`,
      { key, state: 'done', ...(reading ? { reading } : {}) },
      'Jonte Ahrens',
    )
  await api.post(`/api/tests/${plannedId}/plan/versions`, {
    reason: 'The carriage’s frame rides on floor rails: its motion is read as well',
  })

  for (const a of articles) await addArticle(api, books, campaignId, a, revisionIds)
  for (const a of staticArticles) await addStaticArticle(api, books, folder, { campaignId, planOf, on }, a)
  for (const p of furtherPlans) {
    const { article: of, revision: label, plan: written, inDays: days, ready, ...about } = p
    const { id: testId } = await api.post<{ id: number }>(`/api/revisions/${revisionIds[`${of} ${label}`]}/tests`, {
      ...about,
      plan: planOf(written),
      plannedOn: on(days),
    })
    if (ready === 'draft') continue
    await release(api, testId)
    await answer(api, books, testId)
    if (ready === 'half') await makeReady(api, testId, { half: true })
  }
  for (const x of isWhole ? specimens : [])
    await addSpecimen(api, books, folder, { campaignId, planOf, on }, revisionIds[`${x.article} ${x.revision}`]!, x)
  await addActions(books, campaignId, revisionIds, on)
  const testIds = new Map(
    (
      await api.get<{ refs: { test: { id: number; label: string }[] } }>(`/api/registers/task?campaignId=${campaignId}`)
    ).refs.test.map(t => [t.label, t.id]),
  )
  await books.add(
    'task',
    tasks.map(t => {
      const { bookedIn, test, ...task } = t as typeof t & { bookedIn?: number; test?: string }
      return {
        ...task,
        ...(bookedIn === undefined ? {} : { on: on(bookedIn) }),
        ...(test ? { testId: testIds.get(test) } : {}),
      }
    }),
  )
  return slug
}

/** Takes any test through its lessons, its release and its checklist, as the crew of the demo would. */
export async function prepareTest(base: string, testId: number): Promise<void> {
  const api = client(base)
  const { campaign: c, test } = await api.get<{ campaign: { id: number }; test: { planState: string } }>(
    `/api/tests/${testId}`,
  )
  await answer(api, registers(api, c.id), testId)
  if (test.planState === 'draft') await release(api, testId)
  await makeReady(api, testId)
}

interface Made {
  id: number
  revision: { id: number }
}

const factsOf = (list: readonly (readonly [string, string, unknown])[]) =>
  list.map(([group, name, value]) => ({ group, name, value }))

async function addConstants(api: Client, books: Books): Promise<Record<string, number>> {
  const made = await books.add('constant', constants as unknown as Row[])
  const idOf = (subject: string, property: string) =>
    made[constants.findIndex(c => c.subject === subject && c.property === property)]!
  for (const { subject, property, with: measured } of replacements)
    await api.post(`/api/constants/${idOf(subject, property)}/replace`, {
      replacement: { subject, property, ...measured },
      version: 1,
      recompute: [],
    })
  return Object.fromEntries(Object.entries(LAMINATE).map(([key, property]) => [key, idOf('Hanger laminate', property)]))
}

async function addSensors(books: Books, on: (days: number) => string): Promise<Record<SensorName, number>> {
  const rows = Object.values(sensors).map(s => {
    const { calibratedDaysAgo = 165, ...row } = s as typeof s & { calibratedDaysAgo?: number }
    return { ...row, calibratedOn: on(-calibratedDaysAgo), calibrationDue: on(365 - calibratedDaysAgo) }
  })
  const ids = await books.add('sensor', rows)
  return Object.fromEntries(Object.keys(sensors).map((key, i) => [key, ids[i]!])) as Record<SensorName, number>
}

async function addArticle(
  api: Client,
  books: Books,
  campaignId: number,
  { revisions: list, limits: of, predictions, ...about }: (typeof articles)[number],
  revisionIds: Record<string, number>,
): Promise<void> {
  const [first, ...later] = list
  const made = await api.post<Made>('/api/articles', {
    ...about,
    campaignId,
    revision: { ...first, mass: first!.mass ?? null, facts: factsOf(first!.facts) },
  })
  const ids: Record<string, number> = { [first!.label]: made.revision.id }
  for (const { follows, facts, ...r } of later)
    ids[r.label] = await books.addOne('revision', {
      ...r,
      articleId: made.id,
      parentId: follows ? ids[follows]! : null,
      facts: factsOf(facts),
    })
  for (const [label, id] of Object.entries(ids)) revisionIds[`${about.name} ${label}`] = id
  await books.add(
    'limit',
    of.map(({ from, ...l }) => ({ ...l, articleId: made.id, fromRevisionId: from ? ids[from]! : null })),
  )
  await books.add(
    'prediction',
    predictions.map(({ revision, ...p }) => ({ ...p, revisionId: ids[revision] })),
  )
}

async function addActions(
  books: Books,
  campaignId: number,
  revisionIds: Record<string, number>,
  on: (days: number) => string,
): Promise<void> {
  const owners = new Map((await books.rows('person')).map(p => [p['name'], p.id]))
  const limitIds = new Map((await books.rows('limit', campaignId)).map(l => [l['name'], l.id]))
  await books.add(
    'action',
    actions.map(({ owner, inDays, ...a }) => {
      const { limit, revision, ...said } = a as typeof a & { limit?: string; revision?: string }
      return {
        ...said,
        ownerId: owners.get(owner),
        due: on(inDays),
        ...(limit ? { limitId: limitIds.get(limit.split(': ')[1]) } : {}),
        ...(revision ? { revisionId: revisionIds[revision] } : {}),
      }
    }),
  )
}

type Books = ReturnType<typeof registers>

function registers(api: Client, campaignId: number) {
  const rows = async (register: string, of?: number) =>
    (await api.get<{ rows: Kept[] }>(`/api/registers/${register}${of === undefined ? '' : `?campaignId=${of}`}`)).rows
  const add = async (register: string, creates: readonly Row[]) =>
    (await api.post<{ ids: number[] }>(`/api/registers/${register}`, { campaignId, creates })).ids
  return {
    rows,
    add,
    addOne: async (register: string, row: Row) => (await add(register, [row]))[0]!,
    change: (register: string, id: number, version: number, values: Row) =>
      api.post(`/api/registers/${register}`, { campaignId, changes: [{ id, version, values }] }),
    /** What is not there by its name. */
    async addMissing(register: string, name: string, wanted: readonly Row[]) {
      const there = new Set((await rows(register)).map(r => r[name]))
      await add(
        register,
        wanted.filter(w => !there.has(w[name])),
      )
    },
  }
}

interface Firing {
  id: number
  version: number
  answer: string | null
  lesson: { title: string }
}

/**
 * Answers the lessons that fired on a test's plan, by title; without answers all that are left, as in a second demo
 * beside the first.
 */
async function answer(api: Client, books: Books, testId: number, answers?: Record<string, Row>): Promise<void> {
  const { firings } = await api.get<{ firings: Firing[] }>(`/api/tests/${testId}`)
  for (const f of firings) {
    const given = answers ? answers[f.lesson.title] : { answer: 'applied' }
    if (f.answer === null && given) await books.change('firing', f.id, f.version, given)
  }
}

const release = (api: Client, testId: number) => api.post(`/api/tests/${testId}/plan/release`, {})

interface Around {
  campaignId: number
  planOf: (plan: { channels: readonly { sensor: SensorName }[] }) => Row
  on: (days: number) => string
}

/** An article with its test, taken as far as the stage at which it is left. */
async function addStaticArticle(
  api: Client,
  books: Books,
  folder: string,
  { campaignId, planOf, on }: Around,
  { stage, properties, mass, limits: of, test, ...about }: (typeof staticArticles)[number],
): Promise<void> {
  const made = await api.post<Made>('/api/articles', {
    ...about,
    family: 'static',
    campaignId,
    revision: { label: 'A', why: 'First build', mass, properties },
  })
  await books.add(
    'limit',
    of.map(l => ({ ...l, articleId: made.id })),
  )
  const { plan, inDays, ...head } = test
  const { id: testId } = await api.post<{ id: number }>(`/api/revisions/${made.revision.id}/tests`, {
    title: head.title,
    fixture: head.fixture,
    method: head.method,
    cost: head.cost,
    plan: planOf(plan),
    plannedOn: on(inDays),
  })
  await release(api, testId)
  await answer(api, books, testId)
  await makeReady(api, testId)
  if (!('file' in test)) return
  await importFile(api, testId, join(folder, test.file), test.file, test.end)
  if ('targets' in test)
    await importFile(api, testId, join(folder, test.targets), test.targets, '', {
      joins: await mainOf(api, testId),
      clockOffset: 0,
    })
  if (stage === 'judge') await api.post(`/api/tests/${testId}/reduce`, { settings: null, keep: true })
}

/** A specimen with its record, reduced with what its plan and the record propose, and judged. */
async function addSpecimen(
  api: Client,
  books: Books,
  folder: string,
  { planOf, on }: Around,
  revisionId: number,
  x: DemoSpecimen,
): Promise<void> {
  const { id: testId } = await api.post<{ id: number }>(`/api/revisions/${revisionId}/tests`, {
    title: x.title,
    fixture: x.fixture,
    method: x.method,
    cost: x.cost,
    plan: planOf(x.plan),
    plannedOn: on(x.inDays),
  })
  await answer(api, books, testId)
  await release(api, testId)
  await makeReady(api, testId)
  await importFile(api, testId, join(folder, x.file), x.file, x.end)
  await api.post(`/api/tests/${testId}/reduce`, { settings: null, keep: true })
  if (x.judgement) await sign(api, testId, x.judgement)
}

/** Signs as the record has it: a no where something stands against the test, which then counts with remarks. */
async function sign(
  api: Client,
  testId: number,
  judgement: { validity: string; cause: string; place: string; mode: string; note: string },
): Promise<void> {
  const evidence = await api.get<Record<string, { against: string[] }>>(`/api/tests/${testId}/evidence`)
  const answers = Object.fromEntries(
    Object.entries(evidence).map(([key, { against }]) => [
      key,
      against.length > 0 ? { says: 'no', note: against.slice(0, 2).join(' ') } : { says: 'yes', note: '' },
    ]),
  )
  const hasRemarks = Object.values(answers).some(a => a.says === 'no')
  await api.post(`/api/tests/${testId}/judge`, {
    ...judgement,
    answers,
    validity: hasRemarks && judgement.validity === 'valid' ? 'valid-with-remarks' : judgement.validity,
  })
}

interface Item {
  key: string
  state: string
  group: string
  automatic?: boolean
  sign?: string
  photo?: string
  gauge?: { stage: string }
  reading?: { check: string; expected: number | null; kind: string }
}

/** What a good gauge reads at each check, near the middle of what is allowed. */
const READS: Record<string, string> = {
  resistance: '350.3 ohm',
  insulation: '2.4 Gohm',
  'zero-counts': '-38',
  leak: '0.4 %/h',
}

/**
 * Takes a test through its checklist: readings typed, what the plan refuses overridden, signed by those who may. Half
 * of it
 * leaves a seal that leaks and all that comes after.
 */
async function makeReady(api: Client, testId: number, { half = false } = {}): Promise<void> {
  const { ready } = await api.get<{ ready: Item[] }>(`/api/tests/${testId}`)
  const open = ready.filter(i => (i.state === 'open' || i.state === 'failed') && i.group !== 'Lessons' && !i.sign)
  const mark = (key: string, values: Row, by?: string) => api.put(`/api/tests/${testId}/ready`, { key, ...values }, by)
  for (const item of open) {
    if (half && !['Gauges', 'Range', 'Sensors', 'Seal'].includes(item.group)) continue
    const leaks = half && item.key === 'seal:leak'
    const reading = leaks
      ? '4.1 %/h'
      : item.reading
        ? (READS[item.reading.check] ??
          `${Number((item.reading.expected! * 1.003).toPrecision(6))} ${siUnit(item.reading.kind as Kind)}`)
        : undefined
    await (item.automatic === false
      ? mark(item.key, {
          state: 'overridden',
          reason: item.photo
            ? 'Taken with the crew’s own camera, in the paper file'
            : 'The only sensor in the house for this place; its uncertainty is carried.',
        })
      : mark(item.key, { state: 'done', reading }))
  }
  if (half) return
  for (const item of ready.filter(i => i.sign && i.state === 'open'))
    await mark(item.key, { state: 'done' }, people.find(p => p.role === item.sign)?.name)
}

const mainOf = async (api: Client, testId: number): Promise<number> =>
  (await api.get<{ datasets: { id: number }[] }>(`/api/tests/${testId}`)).datasets[0]!.id

type Joined = { file: string; clockOffset: number; twin: { of: string; column: string; tolerance: number } }

/** The file of a second logger of the same run, and the pair of channels that ought to agree. */
async function joinRecord(
  api: Client,
  testId: number,
  folder: string,
  { file, clockOffset, twin }: Joined,
): Promise<void> {
  const main = await mainOf(api, testId)
  await importFile(api, testId, join(folder, file), file, '', { joins: main, clockOffset })
  const { channels } = await api.get<{ channels: { id: number; role: string; name: string }[] }>(
    `/api/datasets/${main}`,
  )
  await api.post(`/api/datasets/${main}/pairs`, {
    a: channels.find(c => c.role === twin.of)!.id,
    b: channels.find(c => c.name === twin.column)!.id,
    tolerance: twin.tolerance,
  })
}

async function importFile(
  api: Client,
  testId: number,
  path: string,
  fileName: string,
  end: string,
  joined?: { joins: number; clockOffset: number },
): Promise<void> {
  const { sha256, preview } = await api.upload<{
    sha256: string
    preview: { guess: { t: unknown }; delimiter: string; headerRow: number }
  }>(`/api/tests/${testId}/files`, readFileSync(path), fileName)
  const { jobId } = await api.post<{ jobId: number }>(
    `/api/tests/${testId}/imports`,
    joined
      ? {
          sha256,
          fileName,
          channels: { t: preview.guess.t },
          reading: { delimiter: preview.delimiter, headerRow: preview.headerRow },
          end: 'ladder done',
          ...joined,
        }
      : { sha256, fileName, channels: preview.guess, end },
  )
  for (;;) {
    const job = await api.get<{ status: string; error: { message: string } | null }>(`/api/jobs/${jobId}`)
    if (job.status === 'done') return
    if (job.status === 'failed') throw new Error(`${fileName}: ${job.error?.message}`)
    await new Promise(r => setTimeout(r, 50))
  }
}

type Client = ReturnType<typeof client>

function client(base: string) {
  async function call<T>(
    method: string,
    path: string,
    body?: BodyInit,
    headers: Record<string, string> = {},
  ): Promise<T> {
    const response = await fetch(base + path, {
      method,
      headers: { 'x-hypomet-person': encodeURIComponent(PERSON), ...headers },
      ...(body === undefined ? {} : { body }),
    })
    const text = await response.text()
    if (!response.ok) throw new Error(`${method} ${path}: ${text}`)
    return JSON.parse(text) as T
  }
  const json = { 'content-type': 'application/json' }
  return {
    get: <T>(path: string) => call<T>('GET', path),
    post: <T>(path: string, body: unknown) => call<T>('POST', path, JSON.stringify(body), json),
    put: <T>(path: string, body: unknown, by?: string) =>
      call<T>('PUT', path, JSON.stringify(body), {
        ...json,
        ...(by ? { 'x-hypomet-person': encodeURIComponent(by) } : {}),
      }),
    upload: <T>(path: string, bytes: Uint8Array, fileName: string) =>
      call<T>('POST', path, new Uint8Array(bytes), {
        'content-type': 'application/octet-stream',
        'x-file-name': encodeURIComponent(fileName),
      }),
  }
}
