import { type Common, commonOf, planViewOf } from './viewedPlan'
import { IMPERIAL, METRIC, type PlanView } from '@hypomet/core'
import { desc, eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { mainRecord } from '../records/clocks'
import { article, campaign, judgement, reduction, revision, run, test } from '../schema'
import { readyItemsOf } from './readiness'
import { standingVerdicts } from '../results/judgements'
import { revisionAfter } from '../articles/changes'

export const STAGES = ['plan', 'ready', 'run', 'reduce', 'judge', 'change'] as const
export type Stage = (typeof STAGES)[number]

export interface StageState {
  stage: Stage
  /** The state in words, for the strip. */
  words: string
  state: 'todo' | 'open' | 'done'
}

/** The state of each stage in words: what the strip says and where the next step is. */
export async function stageStates(db: Db, testId: number, given?: Common): Promise<StageState[]> {
  const common = given ?? (await commonOf(db))
  const view = await planViewOf(db, testId, common)
  const [planned] = await db
    .select({ state: test.planState, number: test.planNumber })
    .from(test)
    .where(eq(test.id, testId))
  const ready = await readyItemsOf(db, testId, new Date().toISOString().slice(0, 10), common)
  const open = ready.filter(i => i.state === 'open' || i.state === 'failed').length
  const overridden = ready.filter(i => i.state === 'overridden').length
  const [lastRun] = await db.select().from(run).where(eq(run.testId, testId)).orderBy(desc(run.id)).limit(1)
  const data = await mainRecord(db, testId)
  const [reduced] = await db
    .select({ id: reduction.id, output: reduction.output })
    .from(reduction)
    .where(eq(reduction.testId, testId))
    .orderBy(desc(reduction.id))
    .limit(1)
  const [judged] = await db
    .select()
    .from(judgement)
    .where(eq(judgement.testId, testId))
    .orderBy(desc(judgement.id))
    .limit(1)
  const reopened = judged ? standingVerdicts(judged.verdicts, common.limits).filter(v => !v.stands).length : 0
  const next = reduced ? await revisionAfter(db, testId) : null
  const count = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`
  return [
    planState(view, planned),
    {
      stage: 'ready',
      words: !view
        ? 'waits for the plan'
        : open > 0
          ? `${open} of ${ready.length} open`
          : overridden > 0
            ? `${overridden} overridden`
            : 'all checked',
      state: !view ? 'todo' : open > 0 ? 'open' : 'done',
    },
    { stage: 'run', words: runWords(lastRun), state: data ? 'done' : lastRun ? 'open' : 'todo' },
    {
      stage: 'reduce',
      words: reduced
        ? count(Object.keys(reduced.output.results).length, 'result')
        : data
          ? 'data waits'
          : 'no data yet',
      state: reduced ? 'done' : data ? 'open' : 'todo',
    },
    {
      stage: 'judge',
      words: judgeWords(judged, reduced, reopened),
      state: judged && judged.reductionId === reduced?.id && reopened === 0 ? 'done' : reduced ? 'open' : 'todo',
    },
    {
      stage: 'change',
      words: next ? `revision ${next.label} follows` : reduced ? 'nothing chosen' : 'waits for results',
      state: next ? 'done' : judged ? 'open' : 'todo',
    },
  ]
}

function planState(
  view: PlanView | null,
  planned: { state: 'draft' | 'released'; number: number } | undefined,
): StageState {
  if (!view) return { stage: 'plan', words: 'no plan yet', state: 'todo' }
  if (planned?.state === 'released')
    return { stage: 'plan', words: `${view.rungs.length} rungs, version ${planned.number}`, state: 'done' }
  const stops = view.findings.filter(f => f.severity === 'stop').length
  return { stage: 'plan', words: stops > 0 ? `draft, ${stops} to mend` : 'draft, to be released', state: 'open' }
}

function runWords(r: typeof run.$inferSelect | undefined): string {
  if (!r) return 'not run'
  if (r.status === 'running') return 'running now'
  if (r.status === 'interrupted') return 'interrupted'
  return r.source === 'file' ? 'file imported' : (r.end ?? 'closed')
}

function judgeWords(
  judged: typeof judgement.$inferSelect | undefined,
  reduced: Pick<typeof reduction.$inferSelect, 'id'> | undefined,
  reopened: number,
): string {
  if (!reduced) return 'waits for results'
  if (!judged) return 'not judged'
  if (judged.reductionId !== reduced.id) return 'results are newer'
  if (reopened > 0) return `${reopened} reopened: a limit changed`
  const counted = (['fail', 'undecided', 'pass'] as const)
    .map(v => ({ v, n: judged.verdicts.filter(x => x.verdict === v).length }))
    .filter(c => c.n > 0)
  return counted.map(c => `${c.n} ${c.v}`).join(', ') || 'no limits'
}

/** Stored revision, article, family and units of a test. */
export async function testContext(db: Db, testId: number) {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) return null
  const [r] = await db.select().from(revision).where(eq(revision.id, t.revisionId))
  const [a] = await db.select().from(article).where(eq(article.id, r!.articleId))
  const [c] = await db.select({ system: campaign.system }).from(campaign).where(eq(campaign.id, a!.campaignId))
  return { test: t, revision: r!, article: a!, prefer: c!.system === 'imperial' ? IMPERIAL : METRIC }
}
