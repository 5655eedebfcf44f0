import {
  expectedPlaces,
  isHypometError,
  limitsOfRevision,
  preferenceOf,
  viewPlanOf,
  type PlanOptions,
  type PlanView,
  type SensorSpecification,
  type UnitPreference,
  type ViewedPlan,
} from '@hypomet/core'
import type { Db } from '../connection/client'
import { grouped, TestSet } from './testSet'

/** All that a plan is worked out from. */
export interface PlanInputs {
  family: string
  plan: Record<string, unknown>
  properties: Record<string, unknown>
  /** Those that its channels name, SI. */
  sensors: Record<number, SensorSpecification>
  options: PlanOptions & { prefer: UnitPreference }
}

/** Of each test of a set that has a plan. */
export async function planInputsOf(set: TestSet): Promise<Map<number, PlanInputs>> {
  const [tests, revisions, articles, campaigns, sensors, expected] = [
    await set.tests(),
    await set.revisions(),
    await set.articles(),
    await set.campaigns(),
    await set.sensors(),
    grouped(await set.expected(), p => p.revisionId),
  ]
  const limits = grouped(await set.limits(), l => l.articleId)
  const specification = new Map(sensors.map(s => [s.id, s.si]))
  const inputs = new Map<number, PlanInputs>()
  /** All tests of a revision share them. */
  const optionsOf = new Map<number, PlanInputs['options']>()
  for (const t of tests.values()) {
    if (t.planText === null) continue
    const r = revisions.get(t.revisionId)!
    if (!optionsOf.has(r.id)) {
      const said = (expected.get(r.id) ?? []).filter(p => p.testId === null)
      optionsOf.set(r.id, {
        prefer: preferenceOf(campaigns.get(articles.get(r.articleId)!.campaignId)!),
        expectedPlaces: expectedPlaces(said),
        facts: r.facts,
        limited: limitsOfRevision(r.id, [...revisions.values()], limits.get(r.articleId) ?? []).map(
          ({ name, quantity }) => ({ name, quantity }),
        ),
        predicted: said.flatMap(({ quantity, value }) => (value === null ? [] : [{ quantity, value }])),
      })
    }
    inputs.set(t.id, {
      family: t.family,
      get plan() {
        return t.plan!
      },
      properties: r.properties,
      sensors: Object.fromEntries(
        t.sensorIds.flatMap(id => (specification.has(id) ? [[id, specification.get(id)!]] : [])),
      ),
      options: optionsOf.get(r.id)!,
    })
  }
  return inputs
}

/** The plan as its kind of test sees it, or null while there is none that holds together. */
export async function viewedPlanOf(
  db: Db,
  testId: number,
  set = new TestSet(db, { testId }),
): Promise<ViewedPlan | null> {
  const inputs = (await planInputsOf(set)).get(testId)
  return inputs ? viewed(inputs) : null
}

export const planViewOf = async (db: Db, testId: number): Promise<PlanView | null> =>
  (await viewedPlanOf(db, testId))?.view ?? null

/** Views that are kept, and what they hold together: a plan of ten thousand channels is worth many of ten. */
const [MOST_VIEWS, MOST_HELD] = [300, 60_000]
const views = new Map<string, ViewedPlan | null>()
let held = 0
const heldBy = (v: ViewedPlan | null | undefined): number => (v ? v.view.channels.length + v.view.rungs.length : 0)

/** The same plan of the same article on the same sensors is calculated once. */
export function viewed(inputs: PlanInputs): ViewedPlan | null {
  const key = JSON.stringify(inputs)
  const known = views.get(key)
  if (known !== undefined) return known
  const { family, plan, properties, sensors, options } = inputs
  const view = holdsTogether(() => viewPlanOf(family, plan, properties, sensors, options))
  views.set(key, view)
  held += heldBy(view)
  for (const [oldest, kept] of views) {
    if (views.size <= MOST_VIEWS && held <= MOST_HELD) break
    if (oldest === key) break
    views.delete(oldest)
    held -= heldBy(kept)
  }
  return view
}

/** A plan made by an earlier build, or for properties that have changed since, may not hold together any more. */
function holdsTogether<T>(make: () => T): T | null {
  try {
    return make()
  } catch (e) {
    if (!isHypometError(e)) throw e
    return null
  }
}
