import { dayAfter, type RigState } from '@hypomet/core'
import { desc, eq, isNotNull, ne } from 'drizzle-orm'
import type { Database } from '../connection/client'
import type { RowsNow } from '../connection/keptRows'
import { beyondRange, plannedWith } from '../registers/inventory'
import { action, campaign, person, run } from '../schema'
import { keepPlanDigests } from '../tests/planDigest'
import { grouped, TestSet, type Firing } from '../tests/testSet'
import { planInputsOf, viewed } from '../tests/viewedPlan'
import { articlesOf } from './campaigns'

/** How far ahead the bench looks. */
const SOON_DAYS = 30

/** What is due, undecided, blocked, overdue, running and firing: each with where it is settled. */
export const benchPage = (database: Database, today: string) =>
  database.kept(`bench ${today}`, rows => benchNow(database, rows, today))

async function benchNow(database: Database, rows: RowsNow, today: string) {
  const { read: db } = database
  const set = new TestSet(db, 'all', rows)
  const articles = grouped(await articlesOf(set), a => a.campaignId)
  keepPlanDigests(database)
  const campaigns = [...(await set.campaigns()).values()].map(c => ({ ...c, articles: articles.get(c.id) ?? [] }))
  const tests = campaigns.flatMap(c =>
    c.articles.flatMap(a =>
      a.revisions.flatMap(r =>
        r.tests.map(t => ({
          campaign: { slug: c.slug, title: c.title, due: c.due, system: c.system, units: c.units },
          article: a,
          revision: r,
          test: t,
          name: `${a.name} ${r.label}: ${t.title}`,
        })),
      ),
    ),
  )
  const soon = dayAfter(today, SOON_DAYS)
  return {
    today,
    campaigns: campaigns.map(c => ({ id: c.id, slug: c.slug, title: c.title })),
    running: await runningNow(set, new Map(tests.map(t => [t.test.id, t]))),
    unsettled: unsettledOf(tests),
    blocked: tests.flatMap(({ test: t, name }) => {
      const ready = t.stages.find(s => s.stage === 'ready')!
      return t.ranOn === null && ready.state === 'open' ? [{ testId: t.id, name, words: ready.words }] : []
    }),
    lessons: unansweredOf(await set.firings(), tests),
    due: [
      ...campaigns.flatMap(c =>
        c.due && c.due <= dayAfter(today, 120)
          ? [{ key: `c${c.id}`, on: c.due, what: c.title, kind: 'campaign', to: `/campaigns/${c.slug}` }]
          : [],
      ),
      ...tests.flatMap(t =>
        t.test.plannedOn && t.test.ranOn === null && t.test.plannedOn <= dayAfter(today, 2 * SOON_DAYS)
          ? [{ key: `t${t.test.id}`, on: t.test.plannedOn, what: t.name, kind: 'test', to: `/tests/${t.test.id}/plan` }]
          : [],
      ),
      ...(
        await db
          .select({
            id: action.id,
            due: action.due,
            question: action.question,
            answer: action.answer,
            slug: campaign.slug,
            owner: person.name,
          })
          .from(action)
          .innerJoin(campaign, eq(campaign.id, action.campaignId))
          .leftJoin(person, eq(person.id, action.ownerId))
          .where(isNotNull(action.due))
      )
        .filter(a => a.answer === '' && a.due! <= soon)
        .map(a => ({
          key: `a${a.id}`,
          on: a.due!,
          what: a.question,
          kind: a.owner ? `action of ${a.owner}` : 'action',
          to: `/campaigns/${a.slug}/action`,
        })),
    ].sort((a, b) => a.on.localeCompare(b.on)),
    sensors: await sensorsToSee(set, today, soon),
    next: tests.map(({ campaign: c, test: t, name }) => ({
      testId: t.id,
      name,
      campaign: c,
      next: t.stages.find(s => s.state !== 'done') ?? null,
    })),
  }
}

/** Lessons that fired on plans of tests that have not been run, and want an answer. */
function unansweredOf(firings: ReadonlyMap<number, Firing[]>, tests: readonly (Standing & { name: string })[]) {
  return tests
    .filter(t => t.test.ranOn === null)
    .flatMap(t => (firings.get(t.test.id) ?? []).filter(f => f.answer === null).map(f => ({ f, name: t.name })))
    .map(({ f, name }) => ({
      id: f.id,
      testId: f.testId,
      title: f.lesson.title,
      instead: f.lesson.instead,
      reasons: f.reasons,
      answer: f.answer,
      name,
    }))
    .toSorted((a, b) => a.id - b.id)
}

const ORDER = ['fail', 'reopened', 'undecided']

interface Standing {
  article: ArticleOf
  revision: { label: string }
  test: TestOf
}
type ArticleOf = Awaited<ReturnType<typeof articlesOf>>[number]
type TestOf = ArticleOf['revisions'][number]['tests'][number]

/** Limits of articles that some of their tests fail or leave open, each with all of those tests; the worst first. */
function unsettledOf(tests: readonly Standing[]) {
  const all = tests
    .flatMap(({ article: a, revision: r, test: t }) => [
      ...t.verdicts
        .filter(v => v.verdict !== 'pass' && v.coveredBy === null)
        .map(v => ({
          key: `${a.id}-${v.limitId}`,
          what: `${a.name}: ${limitName(a, v.limitId)}`,
          testId: t.id,
          name: `${r.label} · ${t.title}`,
          label: r.label,
          verdict: v.verdict as 'undecided' | 'fail',
          why: v.reason,
          stage: v.verdict === 'fail' ? 'change' : 'judge',
        })),
      ...t.reopened.map(id => ({
        key: `${a.id}-${id}`,
        what: `${a.name}: ${limitName(a, id)}`,
        testId: t.id,
        name: `${r.label} · ${t.title}`,
        label: r.label,
        verdict: 'reopened' as const,
        why: 'The limit was changed since it was judged.',
        stage: 'judge',
      })),
    ])
    .sort((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict))
  const byLimit = new Map<string, typeof all>()
  for (const u of all) byLimit.set(u.key, [...(byLimit.get(u.key) ?? []), u])
  return [...byLimit].map(([key, mine]) => {
    const { what, verdict, why } = mine[0]!
    return {
      key,
      what,
      verdict,
      why,
      tests: mine.map(({ testId, name, label, verdict: v, stage }) => ({ testId, name, label, verdict: v, stage })),
    }
  })
}

const limitName = (a: { limits: { id: number; name: string }[] }, id: number): string =>
  a.limits.find(l => l.id === id)?.name ?? 'a withdrawn limit'

async function runningNow(
  set: TestSet,
  tests: Map<number, { name: string; campaign: { system: 'metric' | 'imperial'; units: string[] } }>,
) {
  const runs = await set.db.select().from(run).where(ne(run.status, 'closed')).orderBy(desc(run.id))
  if (runs.length === 0) return []
  const inputs = await planInputsOf(set)
  return runs.map(r => {
    const state = r.rigState as RigState | null
    const plan = inputs.get(r.testId)
    const view = plan ? (viewed(plan)?.view ?? null) : null
    const next = state && view ? (view.rungs[state.rung + 1] ?? null) : null
    return {
      testId: r.testId,
      name: tests.get(r.testId)?.name ?? '',
      system: tests.get(r.testId)?.campaign.system ?? ('metric' as const),
      units: tests.get(r.testId)?.campaign.units ?? [],
      status: r.status,
      rung: (state?.rung ?? 0) + 1,
      rungs: view?.rungs.length ?? 0,
      next: next && {
        target: next.target,
        expected: next.expectedReading,
        kind: view!.commanded.kind,
        reads: view!.read.kind,
      },
    }
  })
}

async function sensorsToSee(set: TestSet, today: string, soon: string) {
  const [beyond, planned] = [beyondRange(await set.readings()), await plannedWith(set.db)]
  const seen = (await set.sensors()).filter(s => s.state !== 'retired')
  return seen
    .toSorted((a, b) => (a.calibrationDue ?? '').localeCompare(b.calibrationDue ?? ''))
    .flatMap(s => {
      const overdue = s.calibrationDue !== null && s.calibrationDue < today
      const due = s.calibrationDue && s.calibrationDue <= soon ? s.calibrationDue : null
      const words = [
        beyond[s.id] ? `read ${Math.round(100 * beyond[s.id]!.share)} % of its range in “${beyond[s.id]!.test}”` : null,
        s.state === 'suspect' ? 'marked as suspect' : null,
      ].filter(w => w !== null)
      return words.length > 0 || due
        ? [
            {
              id: s.id,
              name: s.name,
              overdue,
              due,
              words: words.join('; '),
              plannedFor: (planned[s.id] ?? []).map(p => p.title),
            },
          ]
        : []
    })
}
