import { localDay } from '@hypomet/core'
import type { Db } from '../connection/client'
import { currentVerdicts } from '../results/judgements'
import { planDigestsOf, type PlanDigest } from './planDigest'
import { TestSet } from './testSet'

export const STAGES = ['plan', 'ready', 'run', 'reduce', 'judge', 'change'] as const
export type Stage = (typeof STAGES)[number]

export interface StageState {
  stage: Stage
  /** The state in words, for the strip. */
  words: string
  state: 'todo' | 'open' | 'done'
}

/** Of data that was there before anybody planned it here. */
const NOT_PLANNED: StageState[] = [
  { stage: 'plan', words: 'not planned here', state: 'todo' },
  { stage: 'ready', words: 'not recorded', state: 'todo' },
]

/** The states of one test. */
export const stageStates = async (db: Db, testId: number): Promise<StageState[]> =>
  (await stagesOf(new TestSet(db, { testId }))).get(testId) ?? []

/** The state of each stage in words, by test: what the strip says and where the next step is. */
export async function stagesOf(set: TestSet, today = localDay()): Promise<Map<number, StageState[]>> {
  const [tests, digests, marks, firings] = [
    await set.tests(),
    await planDigestsOf(set, today),
    await set.marks(),
    await set.firings(),
  ]
  const [runs, records, reduced, judged, limits] = [
    await set.runs(),
    await set.records(),
    await set.reduced(),
    await set.judged(),
    await set.limits(),
  ]
  const followers = await followersOf(set)
  const limitById = new Map(limits.map(l => [l.id, l]))
  return new Map(
    [...tests.values()].map(t => {
      const digest = digests.get(t.id) ?? null
      const judgement = judged.get(t.id)
      const reopened = judgement ? currentVerdicts(judgement.verdicts, limitById).filter(v => !v.stands).length : 0
      const results = reduced.get(t.id)
      const current = judgement?.reductionId === results?.id
      const hasData = records.has(t.id)
      const lastRun = runs.get(t.id)?.at(-1)
      const next = followers.get(t.id)
      return [
        t.id,
        [
          ...(hasData && digest === null && lastRun?.source === 'file'
            ? NOT_PLANNED
            : [planState(digest, t), readyState(digest, marks.get(t.id) ?? [], firings.get(t.id) ?? [])]),
          { stage: 'run', words: runWords(lastRun), state: hasData ? 'done' : lastRun ? 'open' : 'todo' },
          {
            stage: 'reduce',
            words: results
              ? count(Object.keys(results.results).length, 'result')
              : hasData
                ? 'data waits'
                : 'no data yet',
            state: results ? 'done' : hasData ? 'open' : 'todo',
          },
          {
            stage: 'judge',
            words: judgeWords(judgement, results, reopened),
            state: judgement && current && reopened === 0 ? 'done' : results ? 'open' : 'todo',
          },
          {
            stage: 'change',
            words: next ? `revision ${next.label} follows` : results ? 'no change decided' : 'waits for results',
            state: next ? 'done' : judgement ? 'open' : 'todo',
          },
        ] satisfies StageState[],
      ]
    }),
  )
}

/** The newest revision that was decided on each test's findings. */
export async function followersOf(set: TestSet) {
  const testOf = await set.testOfReduction()
  return new Map(
    [...(await set.revisions()).values()].flatMap(r => {
      const testId = r.findingReductionId === null ? undefined : testOf.get(r.findingReductionId)
      return testId === undefined ? [] : [[testId, r] as const]
    }),
  )
}

const count = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`

function planState(digest: PlanDigest | null, t: { planState: 'draft' | 'released'; planNumber: number }): StageState {
  if (!digest) return { stage: 'plan', words: 'no plan yet', state: 'todo' }
  const { rungs, stops } = digest
  if (t.planState === 'released')
    return { stage: 'plan', words: `${count(rungs, 'rung')}, version ${t.planNumber}`, state: 'done' }
  return {
    stage: 'plan',
    words: stops > 0 ? `draft, ${count(stops, 'error')} to fix` : 'draft, to be released',
    state: 'open',
  }
}

function readyState(
  digest: PlanDigest | null,
  marks: readonly { key: string; state: string }[],
  firings: readonly { answer: string | null }[],
): StageState {
  if (!digest) return { stage: 'ready', words: 'waits for the plan', state: 'todo' }
  const marked = new Map(marks.map(m => [m.key, m.state]))
  const states = [
    ...firings.map(f => (f.answer === null ? 'open' : f.answer === 'risk-accepted' ? 'overridden' : 'done')),
    ...digest.asked.map(a => (a.settled ? 'done' : (marked.get(a.key) ?? 'open'))),
  ]
  const open = states.filter(s => s === 'open' || s === 'failed').length
  const overridden = states.filter(s => s === 'overridden').length
  return {
    stage: 'ready',
    words: open > 0 ? `${open} of ${states.length} open` : overridden > 0 ? `${overridden} overridden` : 'all checked',
    state: open > 0 ? 'open' : 'done',
  }
}

function runWords(r: { status: string; source: string; end: string | null } | undefined): string {
  if (!r) return 'not run'
  if (r.status === 'running') return 'running now'
  if (r.status === 'interrupted') return 'interrupted'
  return r.source === 'file' ? 'file imported' : (r.end ?? 'closed')
}

function judgeWords(
  judged: { reductionId: number; verdicts: readonly { verdict: string }[] } | undefined,
  reduced: { id: number } | undefined,
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
