import { createHash } from 'node:crypto'
import { setImmediate } from 'node:timers/promises'
import { planningOf, readyItems, type ReadyItem } from '@hypomet/core'
import { sql } from 'drizzle-orm'
import { SOFTWARE_VERSION } from '../../version'
import type { Database } from '../connection/client'
import { sensorsDue } from '../registers/inventory'
import { planDigest } from '../schema'
import type { TestSet } from './testSet'
import { planInputsOf, viewed, type PlanInputs } from './viewedPlan'

/**
 * What overviews say of a plan. Working out a plan takes some 20 ms; what comes out is kept, for there are thousands.
 */
export interface PlanDigest {
  rungs: number
  /** Findings that stand against a release. */
  stops: number
  /** What the checklist asks, and what of it the plan settles by itself. */
  asked: { key: string; settled: boolean }[]
}

interface Kept {
  fingerprint: string
  digest: PlanDigest | null
}

/** With the texts that the fingerprint is of: comparing them costs less than hashing them. */
const known = new Map<number, Kept & { from: readonly string[] }>()
/** Worked out since it was last stored. */
const unsaved = new Map<number, Kept>()

/** Digests by test; null where a plan does not hold together, none where there is no plan. */
export async function planDigestsOf(set: TestSet, today: string): Promise<Map<number, PlanDigest | null>> {
  const [tests, inputs, photos] = [await set.tests(), await planInputsOf(set), await set.photos()]
  const [sensors, readings] = [new Map((await set.sensors()).map(s => [s.id, s])), await set.readings()]
  const beyond = readings.filter(r => r.share > 1)
  let stored: Awaited<ReturnType<TestSet['digests']>> | undefined
  const digests = new Map<number, PlanDigest | null>()
  /** What all tests of a revision share, written once. */
  const ofRevision = new Map<number, string>()
  let begun = performance.now()
  for (const [testId, plan] of inputs) {
    const t = tests.get(testId)!
    const used = t.sensorIds.flatMap(id => sensors.get(id) ?? [])
    const ready = {
      sensors: sensorsDue(used, beyond, testId),
      released: t.planState === 'released' ? t.planNumber : null,
      photos: [...(photos.get(testId) ?? [])],
    }
    if (!ofRevision.has(t.revisionId))
      ofRevision.set(t.revisionId, JSON.stringify([SOFTWARE_VERSION, plan.properties, plan.options]))
    // The plan's own text by itself: it is long, and mostly the very string that was compared before.
    const own = JSON.stringify([plan.family, plan.sensors, ready])
    const from = [today, ofRevision.get(t.revisionId)!, own, t.planText!]
    const before = known.get(testId)
    if (before && from.every((text, i) => text === before.from[i])) {
      digests.set(testId, before.digest)
      continue
    }
    const fingerprint = fingerprintOf(from.slice(1), today)
    stored ??= await set.digests()
    const kept = [before, stored.get(testId)].find(k => k?.fingerprint === fingerprint)
    const digest = kept ? kept.digest : digestOf(plan, ready, today)
    digests.set(testId, digest)
    known.set(testId, { fingerprint, digest, from })
    if (kept) continue
    unsaved.set(testId, { fingerprint, digest })
    // Others are answered in between.
    if (performance.now() - begun < 30) continue
    await setImmediate()
    begun = performance.now()
  }
  return digests
}

/** Few enough values a statement for SQLite. */
const ROWS_A_STATEMENT = 500

/** Stores what was worked out, for the next process; nobody waits for it. */
export function keepPlanDigests(database: Database): void {
  if (unsaved.size === 0) return
  const rows = [...unsaved].map(([testId, kept]) => ({ testId, ...kept }))
  unsaved.clear()
  void database
    .write(async db => {
      for (let i = 0; i < rows.length; i += ROWS_A_STATEMENT)
        await db
          .insert(planDigest)
          .values(rows.slice(i, i + ROWS_A_STATEMENT))
          .onConflictDoUpdate({
            target: planDigest.testId,
            set: { fingerprint: sql`excluded.fingerprint`, digest: sql`excluded.digest` },
          })
    })
    .catch(() => undefined)
}

/** Changes with anything that a digest rests on; of dates it is their order against today that counts. */
function fingerprintOf(texts: readonly string[], today: string): string {
  const hash = createHash('sha1')
  for (const text of texts) {
    hash.update(text)
    for (const [date] of text.matchAll(/\d{4}-\d{2}-\d{2}/g)) hash.update(date < today ? '<' : date > today ? '>' : '=')
  }
  return hash.digest('base64')
}

interface ReadyFacts {
  sensors: ReturnType<typeof sensorsDue>
  released: number | null
  photos: string[]
}

function digestOf(inputs: PlanInputs, ready: ReadyFacts, today: string): PlanDigest | null {
  const plan = viewed(inputs)
  if (!plan) return null
  const items: ReadyItem[] = readyItems({
    plan: plan.plan,
    view: plan.view,
    ...ready,
    today,
    setUp: planningOf(inputs.family).setUp,
    prefer: inputs.options.prefer,
  })
  return {
    rungs: plan.view.rungs.length,
    stops: plan.view.findings.filter(f => f.severity === 'stop').length,
    asked: items.map(i => ({ key: i.key, settled: i.automatic === true })),
  }
}
