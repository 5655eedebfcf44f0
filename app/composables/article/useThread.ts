import type { ArticleView } from '~/types/api'

/** An article's revisions as the thread draws them, and what it goes on with. */
export function useThread(system: MaybeRefOrGetter<'metric' | 'imperial'>) {
  const units = useUnits(system)
  const thread = (a: ArticleView) =>
    a.revisions.map(r => ({
      id: r.id,
      label: r.label,
      changed: r.changed,
      why: r.why,
      finding: r.finding,
      follows: a.revisions.find(x => x.id === r.parentId)?.label ?? null,
      mass: r.mass === null ? 'not weighed' : units.show(r.mass, 'mass', { digits: 3 }),
      tests: r.tests.map(t => {
        const next = t.stages.find(s => s.state !== 'done')
        return {
          id: t.id,
          title: t.title,
          stage: next?.stage ?? 'judge',
          words: next ? `${next.stage}: ${next.words}` : 'all stages done',
          verdicts: t.verdicts.map(v => ({
            name: a.limits.find(l => l.id === v.limitId)?.name ?? '',
            verdict: v.verdict,
            coveredBy: v.coveredBy?.title ?? null,
          })),
        }
      }),
    }))

  /** The change that the newest judged test asks for. */
  function nextOf(a: ArticleView): { words: string; to: string } | undefined {
    const test = a.revisions.flatMap(r => r.tests).findLast(t => t.verdicts.length > 0)
    const unmet = test?.verdicts.filter(v => v.verdict !== 'pass').length ?? 0
    return test
      ? {
          words:
            unmet > 0
              ? `${unmet} of ${a.limits.length} limits not passed: choose the next revision`
              : 'Every limit passes: see what mass can come out',
          to: `/tests/${test.id}/change`,
        }
      : undefined
  }
  return { units, thread, nextOf }
}
