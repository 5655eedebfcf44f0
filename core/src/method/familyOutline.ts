import type { CurveOutline } from './prediction'
import type { ResultDeclaration } from './results'

/** What can be said of a kind of test before it is run: enough for articles, revisions, limits and predictions. */
export interface FamilyOutline {
  id: string
  title: string
  results: Record<string, ResultDeclaration>
  /** Curves that predictions may be given as: measured over commanded axes, SI. */
  curves: Record<string, CurveOutline>
  /** What its tests go by: a load, mostly. */
  guide: CurveOutline['x'] | null
}
