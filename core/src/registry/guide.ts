import type { AnyFamily } from '../family/contract'
import type { Role } from '../method/table'

/** The load, or whatever a kind of test goes by: what its zeros are to be without, else the first that it reads. */
export const guideOf = ({ checked }: AnyFamily, roles: Record<string, Role>): string | null =>
  checked?.load ?? Object.keys(roles).find(r => r !== 't' && r !== '*' && !roles[r]!.optional) ?? null
