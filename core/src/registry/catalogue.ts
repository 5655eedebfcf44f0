import type { FamilyOutline } from '../method/familyOutline'

import { families } from './methods'

export const familyOutlines: FamilyOutline[] = Object.values(families)
  .map(f => ({ id: f!.id, title: f!.title, results: f!.results, curves: f!.stages.curves }))
  .sort((a, b) => a.title.localeCompare(b.title, 'en'))

export const outlineOf = (id: string): FamilyOutline | null => familyOutlines.find(f => f.id === id) ?? null
