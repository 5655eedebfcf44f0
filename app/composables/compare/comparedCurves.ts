import type { Axis, Figure, Series } from '@hypomet/core'
import type { Compared } from '~/types/api'

export interface ComparedCurve {
  key: string
  name: string
  testId: number
  series: Series
}

/** Figures that all of the tests could have, the one that most of them do first. */
export function commonFigures(tests: readonly Compared[]): string[] {
  const names = [...new Set(tests.flatMap(t => Object.keys(t.figures)))]
  const count = (name: string) => tests.filter(t => (t.figures[name]?.series.length ?? 0) > 0).length
  return names.filter(n => count(n) > 0).toSorted((a, b) => count(b) - count(a))
}

/** Every measured curve of a figure; of several in one test each by its own name. */
export function curvesOf(tests: readonly Compared[], figure: string): ComparedCurve[] {
  return tests.flatMap(t => {
    const series = t.figures[figure]?.series ?? []
    const drawn = series.some(s => s.style === 'measured') ? series.filter(s => s.style === 'measured') : series
    const isOne = new Set(tests.map(x => x.articleId)).size === 1
    const name = `${isOne ? '' : `${t.article} `}${t.revision} · ${t.title}`
    // Of one test in a revision its curves need no more than that.
    const short = tests.some(x => x !== t && x.revisionId === t.revisionId) ? name : t.revision
    return drawn.map((s, i) => ({
      key: `${t.id}:${i}`,
      name: drawn.length > 1 ? `${short} · ${s.name}` : name,
      testId: t.id,
      series: s,
    }))
  })
}

export const axesOf = (tests: readonly Compared[], figure: string): { x: Axis; y: Axis } | null =>
  (t => (t ? { x: t.figures[figure]!.x, y: t.figures[figure]!.y } : null))(tests.find(t => t.figures[figure]))

export const overlayOf = (axes: { x: Axis; y: Axis }, curves: readonly ComparedCurve[]): Figure => ({
  ...axes,
  lines: [],
  series: curves.map((c, i) => ({
    ...c.series,
    name: c.name,
    style: c.series.style === 'points' ? 'points' : 'measured',
    of: i,
  })),
})

/**
 * Each curve with the one that it is held against: of the same name in the first test – a channel before and after –,
 * else the first of all.
 */
export function pairsOf(
  curves: readonly ComparedCurve[],
  base: ComparedCurve,
): { curve: ComparedCurve; against: ComparedCurve }[] {
  const others = curves.filter(c => c.testId !== base.testId)
  if (others.length === 0) return curves.filter(c => c !== base).map(curve => ({ curve, against: base }))
  return others.map(curve => ({
    curve,
    against: curves.find(c => c.testId === base.testId && c.series.name === curve.series.name) ?? base,
  }))
}
