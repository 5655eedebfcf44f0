import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { QUESTIONS, rolesOfPlan, siUnit, type Answer, type HypometError } from '@hypomet/core'
import * as demo from '../../demo/scenario'
import { createArticle, createCampaign } from '../db/campaigns/campaigns'
import type { Database } from '../db/connection/client'
import { beginImport, finishImport, plannedChannels, previewFile, type NewImport } from '../db/records/datasets'
import { writeRows } from '../db/registers/service'
import { releasePlan } from '../db/tests/plans'
import { isOpen, markReady, readyItemsOf } from '../db/tests/readiness'
import { testContext } from '../db/tests/testContext'
import { createTest } from '../db/tests/tests'
import { keepLikeTwin, keepReduction } from '../jobs/keepReduction'
import { temporaryDatabase } from './database'

export const BY = 'Tester'
export const demoFile = (name: string): Uint8Array => readFileSync(join(import.meta.dirname, '../../demo/data', name))

/** The demo's arm with its limits and sensors, and a planned test of revision B. */
export async function armWithPlan(database: Database) {
  const { weeksToDue: _, ...about } = demo.campaign
  const { id: campaignId, slug } = await createCampaign(database, BY, {
    ...about,
    due: null,
    system: 'metric',
    rule: 'guarded',
    convention: 'margin-of-safety',
  })
  const add = async (register: string, rows: Record<string, unknown>[]) =>
    (await writeRows(database, BY, register, { campaignId, creates: rows, changes: [], removes: [] })).ids
  const sensorList = await add(
    'sensor',
    Object.values(demo.sensors).map(s => {
      const { calibratedDaysAgo: _, ...row } = s as typeof s & { calibratedDaysAgo?: number }
      return row
    }),
  )
  const sensorIds = Object.fromEntries(Object.keys(demo.sensors).map((key, i) => [key, sensorList[i]!]))
  const { test: planned, facts: _facts, ...revision } = demo.revisions[1]
  const made = await createArticle(database, BY, campaignId, {
    ...demo.article,
    revision: { ...revision, parentId: null },
  })
  await add(
    'limit',
    demo.limits.map(l => ({ ...l, articleId: made.id })),
  )
  const plan = {
    ...planned.plan,
    channels: planned.plan.channels.map(({ sensor, ...c }) => ({ ...c, sensorId: sensorIds[sensor]! })),
  }
  const test = await createTest(database, BY, made.revision.id, { title: planned.title, plan })
  return { slug, campaignId, add, articleId: made.id, revisionId: made.revision.id, testId: test.id, plan }
}

/** A reading that is good, by what is asked. */
const GOOD = { resistance: '350', insulation: '2 Gohm', 'zero-counts': '12', leak: '0.3', 'check-value': '' }

/**
 * Releases the plan and closes its checklist as a person would: readings typed, what the plan refuses overridden,
 * signed last.
 */
export async function makeReady(database: Database, testId: number, { sign = true } = {}) {
  await releasePlan(database, BY, testId).catch((e: unknown) => {
    if ((e as HypometError).code !== 'plan-released') throw e
  })
  const items = async () => (await readyItemsOf(database.read, testId, '2026-01-01')).filter(isOpen)
  for (const item of await items()) {
    if (item.group === 'Lessons' || item.sign) continue
    const refused = item.automatic === false
    const reading = item.reading
      ? GOOD[item.reading.check] || `${item.reading.expected} ${siUnit(item.reading.kind)}`
      : undefined
    await markReady(database, BY, testId, {
      key: item.key,
      state: refused ? 'overridden' : 'done',
      reason: refused ? 'The only one' : '',
      reading,
      isTried: true,
    })
  }
  if (sign) await signAll(database, testId)
}

export async function signAll(database: Database, testId: number) {
  for (const item of (await readyItemsOf(database.read, testId, '2026-01-01')).filter(isOpen))
    if ('sign' in item && item.sign) await markReady(database, BY, testId, { key: item.key, state: 'done', reason: '' })
}

export type TestServer = Awaited<ReturnType<typeof temporaryDatabase>>

/** A fresh server with the demo's arm and a test of it that is ready to run. */
export async function readyServer(): Promise<{ server: TestServer; testId: number }> {
  const server = await temporaryDatabase()
  const { testId } = await armWithPlan(server.database)
  await makeReady(server.database, testId)
  return { server, testId }
}

/** Imports a file as the routes do. */
export async function importBytes(
  { database, originals, run }: TestServer,
  testId: number,
  bytes: Uint8Array,
  change: Partial<NewImport> = {},
) {
  const planned = await plannedChannels(database.read, testId)
  const input: NewImport = {
    sha256: await originals.keep(bytes),
    fileName: 'arm.csv',
    channels: change.channels ?? previewFile(bytes, planned).guess,
    end: 'ladder done',
    ...change,
  }
  const { test } = (await testContext(database.read, testId))!
  const { id: datasetId } = await beginImport(database, BY, testId, input)
  await run('import', {
    datasetId,
    sha256: input.sha256,
    fileName: input.fileName,
    family: test.family,
    roles: rolesOfPlan(test.family, test.plan),
    channels: input.channels,
    sensorOf: Object.fromEntries(planned.map(p => [p.role, p.sensorId])),
    testId,
    by: BY,
    end: input.end,
    broke: input.broke ?? null,
    reading: input.reading ?? {},
    joins: input.joins ?? null,
    clockOffset: input.clockOffset ?? 0,
  })
  return finishImport(database, BY, testId, datasetId, input)
}

export const reduceAndKeep = (
  { database, run }: TestServer,
  testId: number,
  settings: Record<string, unknown> | null = null,
) => keepReduction({ database, jobs: { call: run } }, BY, testId, settings)

export const reduceLikeTwin = ({ database, run }: TestServer, testId: number, settings: Record<string, unknown>) =>
  keepLikeTwin({ database, jobs: { call: run } }, BY, testId, settings)

/** The refusal of what must not go through. */
export const refused = async (work: Promise<unknown>): Promise<HypometError> =>
  work.then(
    () => {
      throw new Error('was not refused')
    },
    (e: HypometError) => e,
  )

/** Every question of validity with a yes. */
export const ANSWERED: Record<string, Answer> = Object.fromEntries(
  QUESTIONS.map(q => [q.key, { says: 'yes', note: '' }]),
)
