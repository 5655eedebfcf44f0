import type { AnyFamily } from '../family/contract'
import type { ReduceContext, Table } from '../method/table'
import type { Reduction } from '../method/reduction'
import { largestSize } from '../signal/rising'
import { combine, type Contribution } from '../uncertainty/coverage'
import { sensorBudget } from '../uncertainty/sensor'

/**
 * A reduction with the uncertainty of its results. Each sensor's standard uncertainty at the channel's largest reading
 * is
 * taken as an error in its gain, the same all through the record; what the results move by when that channel is read so
 * much smaller is their contribution (GUM 5.1.3, by difference). A zero that is taken off cancels, and so do errors
 * common
 * to both ends of a difference: what a record shows of its own scatter is not in it.
 *
 * @throws HypometError of the family's reduction
 * @source JCGM 100:2008, 5.1.3
 */
export function reduceTable(family: AnyFamily, table: Table, settings: unknown, context: ReduceContext): Reduction {
  const reduction = family.reduce(table, settings, context)
  if (family.ownsUncertainty) return reduction
  const budgets: Record<string, Contribution[]> = {}
  for (const [role, sensor] of Object.entries(context.sensors)) {
    const y = table.channels[role]
    const most = y ? largestSize(y) : 0
    if (!y || most === 0) continue
    for (const item of combinedBudget(role, sensorBudget(sensor, most))) {
      const share = item.contribution / most
      const moved = family.reduce(
        { ...table, channels: { ...table.channels, [role]: scaled(y, 1 - share) } },
        settings,
        context,
      )
      for (const [key, { value }] of Object.entries(reduction.results)) {
        const other = moved.results[key]?.value
        if (typeof value === 'number' && typeof other === 'number')
          (budgets[key] ??= []).push({ ...item, contribution: Math.abs(other - value) })
      }
    }
  }
  return {
    ...reduction,
    results: Object.fromEntries(
      Object.entries(reduction.results).map(([key, result]) => {
        const budget = budgets[key]?.filter(c => c.contribution > 1e-12 * Math.abs(result.value ?? 0)) ?? []
        if (budget.length === 0 || (result.u !== undefined && !family.addsToUncertainty)) return [key, result]
        const { u, k } = combine(
          result.u === undefined ? budget : [...budget, { name: 'fit', contribution: result.u, dof: Infinity }],
        )
        return [key, Number.isFinite(u) ? { ...result, u, k } : result]
      }),
    ),
  }
}

function scaled(y: Float64Array, factor: number): Float64Array {
  const other = new Float64Array(y.length)
  for (let i = 0; i < y.length; i++) other[i] = y[i]! * factor
  return other
}

/** A sensor's whole budget as one contribution, with its effective degrees of freedom. */
function combinedBudget(name: string, budget: Contribution[]): Contribution[] {
  if (budget.length === 0) return []
  const { u, dof } = combine(budget)
  return u > 0 ? [{ name, contribution: u, dof }] : []
}
