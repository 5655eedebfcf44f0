import {
  type PlanOptions,
  type PlanView,
  type SensorSpecification,
  type ViewedPlan,
  IMPERIAL,
  METRIC,
  expectedPlaces,
  isHypometError,
  viewPlanOf,
} from '@hypomet/core'
import type { Db } from '../connection/client'
import { listSensors, readingsOf } from '../registers/inventory'
import { article, campaign, limit, prediction, revision, test } from '../schema'
import { and, eq, isNull } from 'drizzle-orm'

/** What the states of many tests have in common, read once for all of them. */
export interface Common {
  sensors: Awaited<ReturnType<typeof listSensors>>
  readings: Awaited<ReturnType<typeof readingsOf>>
  limits: (typeof limit.$inferSelect)[]
}

export const commonOf = async (db: Db): Promise<Common> => ({
  sensors: await listSensors(db),
  readings: await readingsOf(db),
  limits: await db.select().from(limit),
})

/** The plan as its kind of test sees it, or null while there is none that holds together. */
export async function viewedPlanOf(
  db: Db,
  testId: number,
  common?: Pick<Common, 'sensors'>,
): Promise<ViewedPlan | null> {
  const [found] = await db
    .select({
      family: test.family,
      plan: test.plan,
      properties: revision.properties,
      revisionId: revision.id,
      system: campaign.system,
    })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .innerJoin(campaign, eq(campaign.id, article.campaignId))
    .where(eq(test.id, testId))
  if (!found?.plan) return null
  const used = new Set(((found.plan['channels'] ?? []) as { sensorId?: number | null }[]).map(c => c.sensorId))
  const sensors = Object.fromEntries(
    (common?.sensors ?? (await listSensors(db))).filter(s => used.has(s.id)).map(s => [s.id, s.si]),
  )
  const said = await db
    .select({
      place: prediction.place,
      source: prediction.source,
      quantity: prediction.quantity,
      value: prediction.value,
    })
    .from(prediction)
    .where(and(eq(prediction.revisionId, found.revisionId), isNull(prediction.testId)))
  return viewed(found.family, found.plan, found.properties, sensors, {
    prefer: found.system === 'imperial' ? IMPERIAL : METRIC,
    expectedPlaces: expectedPlaces(said),
    predicted: said.flatMap(({ quantity, value }) => (value === null ? [] : [{ quantity, value }])),
  })
}

export const planViewOf = async (db: Db, testId: number, common?: Pick<Common, 'sensors'>): Promise<PlanView | null> =>
  (await viewedPlanOf(db, testId, common))?.view ?? null

export const MOST_VIEWS = 300

export const views = new Map<string, ViewedPlan | null>()

/** The same plan of the same article on the same sensors is calculated once. */
export function viewed(
  family: string,
  plan: Record<string, unknown>,
  properties: Record<string, unknown>,
  sensors: Record<number, SensorSpecification>,
  options: PlanOptions,
): ViewedPlan | null {
  const key = JSON.stringify([family, plan, properties, sensors, options])
  const known = views.get(key)
  if (known !== undefined) return known
  const view = holdsTogether(() => viewPlanOf(family, plan, properties, sensors, options))
  if (views.size >= MOST_VIEWS) views.delete(views.keys().next().value!)
  views.set(key, view)
  return view
}

/** A plan made by an earlier build, or for properties that have changed since, may not hold together any more. */
export function holdsTogether<T>(make: () => T): T | null {
  try {
    return make()
  } catch (e) {
    if (!isHypometError(e)) throw e
    return null
  }
}
