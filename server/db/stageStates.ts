import { IMPERIAL, METRIC, parseSettings, type PlanView, type SensorSpecification, type UnitPreference } from '@hypomet/core'
import { desc, eq } from 'drizzle-orm'
import type { Db } from './client'
import { familyOf } from './families'
import { mainRecord } from './clocks'
import { article, campaign, judgement, limit, readyMark, reduction, revision, run, test } from './schema'
import { firingsOf } from './firings'
import { standingVerdicts } from './judgements'
import { listSensors, readingsOf, sensorsDue } from './sensors'
import { revisionAfter } from './changes'

export const STAGES = ['plan', 'ready', 'run', 'reduce', 'judge', 'change'] as const
export type Stage = (typeof STAGES)[number]

export interface StageState {
  stage: Stage
  /** The state in words, for the strip. */
  words: string
  state: 'todo' | 'open' | 'done'
}

/** What the states of many tests have in common, read once for all of them. */
export interface Common {
  sensors: Awaited<ReturnType<typeof listSensors>>
  readings: Awaited<ReturnType<typeof readingsOf>>
  limits: (typeof limit.$inferSelect)[]
}

export const commonOf = async (db: Db): Promise<Common> => ({ sensors: await listSensors(db), readings: await readingsOf(db), limits: await db.select().from(limit) })

/** The plan as its family sees it, or null while there is none that holds together. */
export async function planViewOf(db: Db, testId: number, common?: Pick<Common, 'sensors'>): Promise<PlanView | null> {
  const [found] = await db.select({ family: test.family, plan: test.plan, properties: revision.properties }).from(test).innerJoin(revision, eq(revision.id, test.revisionId)).where(eq(test.id, testId))
  if (!found?.plan) return null
  const used = new Set(((found.plan['channels'] ?? []) as { sensorId?: number | null }[]).map(c => c.sensorId))
  const sensors = Object.fromEntries((common?.sensors ?? (await listSensors(db))).filter(s => used.has(s.id)).map(s => [s.id, s.si]))
  return viewed(found.family, found.plan, found.properties, sensors)
}

const MOST_VIEWS = 300
const views = new Map<string, PlanView | null>()

/** The same plan of the same article on the same sensors is calculated once. */
function viewed(family: string, plan: Record<string, unknown>, properties: Record<string, unknown>, sensors: Record<number, SensorSpecification>): PlanView | null {
  const key = JSON.stringify([family, plan, properties, sensors])
  const known = views.get(key)
  if (known !== undefined) return known
  const { stages } = familyOf(family)
  const parsed = stages.plan.safeParse(plan)
  const view = parsed.success ? stages.viewPlan(parsed.data, parseSettings(stages.article, properties, 'properties'), sensors) : null
  if (views.size >= MOST_VIEWS) views.delete(views.keys().next().value!)
  views.set(key, view)
  return view
}

export async function readyItemsOf(db: Db, testId: number, today: string, common?: Common) {
  const view = await planViewOf(db, testId, common)
  if (!view) return []
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  const { sensors: rows, readings } = common ?? (await commonOf(db))
  const sensors = sensorsDue(rows, readings, testId)
  const marks = new Map((await db.select().from(readyMark).where(eq(readyMark.testId, testId))).map(m => [m.key, m]))
  const items = familyOf(t!.family).stages.readyItems(view, sensors, today, await preferenceOf(db, t!.revisionId)).map(item => {
    const mark = marks.get(item.key)
    const state = item.automatic === true ? ('done' as const) : mark?.state ?? ('open' as const)
    return { ...item, state, by: mark?.by ?? null, reason: mark?.reason ?? '', at: mark?.at ?? null }
  })
  return [...(await firingsOf(db, testId)).map(lessonItem), ...items]
}

/** A lesson that fired stands first on the checklist until it is answered. */
const lessonItem = (f: Awaited<ReturnType<typeof firingsOf>>[number]) => ({
  key: `lesson:${f.id}`, group: 'Lessons' as const, text: f.lesson.title, why: f.lesson.instead, automatic: undefined,
  state: f.answer === null ? ('open' as const) : f.answer === 'risk-accepted' ? ('overridden' as const) : ('done' as const), by: f.by || null, reason: f.reason, at: f.answeredAt,
})

async function preferenceOf(db: Db, revisionId: number): Promise<UnitPreference> {
  const [found] = await db.select({ system: campaign.system }).from(revision).innerJoin(article, eq(article.id, revision.articleId)).innerJoin(campaign, eq(campaign.id, article.campaignId)).where(eq(revision.id, revisionId))
  return found?.system === 'imperial' ? IMPERIAL : METRIC
}

/** The state of each stage in words: what the strip says and where the next step is. */
export async function stageStates(db: Db, testId: number, given?: Common): Promise<StageState[]> {
  const common = given ?? (await commonOf(db))
  const view = await planViewOf(db, testId, common)
  const ready = await readyItemsOf(db, testId, new Date().toISOString().slice(0, 10), common)
  const open = ready.filter(i => i.state === 'open').length
  const overridden = ready.filter(i => i.state === 'overridden').length
  const [lastRun] = await db.select().from(run).where(eq(run.testId, testId)).orderBy(desc(run.id)).limit(1)
  const data = await mainRecord(db, testId)
  const [reduced] = await db.select({ id: reduction.id, output: reduction.output }).from(reduction).where(eq(reduction.testId, testId)).orderBy(desc(reduction.id)).limit(1)
  const [judged] = await db.select().from(judgement).where(eq(judgement.testId, testId)).orderBy(desc(judgement.id)).limit(1)
  const reopened = judged ? standingVerdicts(judged.verdicts, common.limits).filter(v => !v.stands).length : 0
  const next = reduced ? await revisionAfter(db, testId) : null
  const count = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`
  return [
    { stage: 'plan', words: view ? count(view.rungs.length, 'rung') : 'no plan yet', state: view ? 'done' : 'todo' },
    { stage: 'ready', words: !view ? 'waits for the plan' : open > 0 ? `${open} of ${ready.length} open` : overridden > 0 ? `${overridden} overridden` : 'all checked', state: !view ? 'todo' : open > 0 ? 'open' : 'done' },
    { stage: 'run', words: runWords(lastRun), state: data ? 'done' : lastRun ? 'open' : 'todo' },
    { stage: 'reduce', words: reduced ? count(Object.keys(reduced.output.results).length, 'result') : data ? 'data waits' : 'no data yet', state: reduced ? 'done' : data ? 'open' : 'todo' },
    { stage: 'judge', words: judgeWords(judged, reduced, reopened), state: judged && judged.reductionId === reduced?.id && reopened === 0 ? 'done' : reduced ? 'open' : 'todo' },
    { stage: 'change', words: next ? `revision ${next.label} follows` : reduced ? 'nothing chosen' : 'waits for results', state: next ? 'done' : judged ? 'open' : 'todo' },
  ]
}

function runWords(r: typeof run.$inferSelect | undefined): string {
  if (!r) return 'not run'
  if (r.status === 'running') return 'running now'
  if (r.status === 'interrupted') return 'interrupted'
  return r.source === 'file' ? 'file imported' : r.end ?? 'closed'
}

function judgeWords(judged: typeof judgement.$inferSelect | undefined, reduced: Pick<typeof reduction.$inferSelect, 'id'> | undefined, reopened: number): string {
  if (!reduced) return 'waits for results'
  if (!judged) return 'not judged'
  if (judged.reductionId !== reduced.id) return 'results are newer'
  if (reopened > 0) return `${reopened} reopened: a limit changed`
  const counted = (['fail', 'undecided', 'pass'] as const).map(v => ({ v, n: judged.verdicts.filter(x => x.verdict === v).length })).filter(c => c.n > 0)
  return counted.map(c => `${c.n} ${c.v}`).join(', ') || 'no limits'
}

/** Stored revision, article and family of a test. */
export async function testContext(db: Db, testId: number) {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) return null
  const [r] = await db.select().from(revision).where(eq(revision.id, t.revisionId))
  const [a] = await db.select().from(article).where(eq(article.id, r!.articleId))
  return { test: t, revision: r!, article: a! }
}
