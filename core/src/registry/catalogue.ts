import type { FamilyOutline } from '../method/familyOutline'
import type { AnyFamily } from '../family/contract'
import { KINDS, type Kind } from '../quantity/kinds'
import { guideOf } from './guide'
import { families } from './methods'

export const familyOutlines: FamilyOutline[] = Object.values(families)
  .map(f => ({ id: f!.id, title: f!.title, results: f!.results, curves: f!.stages.curves, guide: guideAxis(f!) }))
  .sort((a, b) => a.title.localeCompare(b.title, 'en'))

function guideAxis(f: AnyFamily): FamilyOutline['guide'] {
  const role = guideOf(f, f.roles)
  const { label, kind } = (role === null ? undefined : f.roles[role]) ?? {}
  return label !== undefined && kind !== undefined && kind in KINDS ? { label, kind: kind as Kind } : null
}

export const outlineOf = (id: string): FamilyOutline | null => familyOutlines.find(f => f.id === id) ?? null
