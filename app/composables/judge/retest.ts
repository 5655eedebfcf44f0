import { fromUnit, inUnit, type Kind } from '@hypomet/core'

type Plan = Record<string, unknown>
interface Rung {
  target: number | { value: number; unit: string }
  [key: string]: unknown
}

/**
 * A plan again whose ladder gets to a load, SI: one more rung above the highest where that stands lower, in its unit
 * and held as long. Unchanged where the ladder gets there already.
 */
export function planTo(plan: Plan, load: number, kind: Kind): Plan {
  const rungs = (plan['rungs'] ?? []) as Rung[]
  const si = (r: Rung) => (typeof r.target === 'number' ? r.target : fromUnit(r.target.value, kind, r.target.unit))
  const highest = rungs.reduce((m, r, i) => (m < 0 || si(r) > si(rungs[m]!) ? i : m), -1)
  if (highest < 0 || si(rungs[highest]!) >= load) return plan
  const like = rungs[highest]!
  const unit = typeof like.target === 'number' ? null : like.target.unit
  const value = roundedUp(unit ? inUnit(load, kind, unit) : load)
  const target = unit ? { value, unit } : value
  return { ...plan, rungs: rungs.toSpliced(highest + 1, 0, { ...like, target }) }
}

/** To three figures, never below. */
function roundedUp(value: number): number {
  const step = 10 ** (Math.floor(Math.log10(value)) - 2)
  return Number((Math.ceil(value / step - 1e-9) * step).toPrecision(3))
}
