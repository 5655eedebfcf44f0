import type { ResultDeclaration } from '../method/define'
import type { Kind } from '../quantity/index'
import { families } from '../registry'

/** What can be said of a kind of test before it is run: enough for articles, revisions, limits and predictions. */
export interface FamilyOutline {
  id: string
  title: string
  results: Record<string, ResultDeclaration>
  /** Curves that predictions may be given as: measured over commanded axes, SI. */
  curves: Record<string, CurveOutline>
}

export interface CurveOutline {
  title: string
  x: { label: string; kind: Kind }
  y: { label: string; kind: Kind }
}

export const familyOutlines: FamilyOutline[] = Object.values(families)
  .map(f => ({ id: f!.id, title: f!.title, results: f!.results, curves: f!.stages.curves }))
  .sort((a, b) => a.title.localeCompare(b.title, 'en'))

export const outlineOf = (id: string): FamilyOutline | null => familyOutlines.find(f => f.id === id) ?? null
