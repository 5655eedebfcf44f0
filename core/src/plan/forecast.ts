import type { ReduceContext } from '../method/table'
import { combine, type Contribution } from '../uncertainty/coverage'
import { sensorBudget, type SensorSpecification } from '../uncertainty/sensor'
import type { ChannelView } from './channels'

/** A limit as the forecast sees it, SI. */
export interface ForecastLimit {
  id: number
  name: string
  quantity: string
  comparator: 'atLeast' | 'atMost'
  value: number
}

/** What is expected of a quantity, and by whom. */
export interface Expectation {
  quantity: string
  value: number
  source: string
}

export interface InventorySensor {
  id: number
  name: string
  kind: string
  si: SensorSpecification
}

export interface ForecastRow {
  limit: ForecastLimit
  expected: Expectation | null
  /** Expanded uncertainty with the sensors as planned; null where it cannot be had. */
  U: number | null
  /** How far the expected value lies from the limit, on the good side positive. */
  margin: number | null
  /** Whether the expected value, were it measured, would decide. */
  decides: boolean | null
  /** Roles whose sensor makes most of U, and sensors of the house that would decide in its place. */
  governing: string | null
  better: { role: string; sensorId: number; name: string; U: number }[]
}

export type BudgetOf = (quantity: string, value: number, sensors: ReduceContext['sensors']) => Contribution[] | null

/**
 * Budget of results that are readings of one channel: its sensor at that reading.
 *
 * @param readBy  role of the channel by result
 */
export const directBudget =
  (readBy: Readonly<Record<string, string>>): BudgetOf =>
  (quantity, value, sensors) => {
    const sensor = readBy[quantity] === undefined ? undefined : sensors[readBy[quantity]]
    return sensor ? sensorBudget(sensor, value) : null
  }

const expanded = (budget: Contribution[] | null): number | null => {
  if (!budget || budget.length === 0) return null
  const { u, k } = combine(budget)
  return k * u
}

/**
 * Can this plan decide the limits at all? The uncertainty that its sensors would give, against how far the expected
 * value
 * lies from each limit; where that is too much, which sensors of the house would do.
 */
export function forecast(
  limits: readonly ForecastLimit[],
  expectations: readonly Expectation[],
  channels: readonly ChannelView[],
  inventory: readonly InventorySensor[],
  budgetOf: BudgetOf,
): ForecastRow[] {
  const byId = new Map(inventory.map(s => [s.id, s]))
  const planned: Record<string, SensorSpecification> = Object.fromEntries(
    channels.flatMap(c => (c.sensorId !== null && byId.has(c.sensorId) ? [[c.role, byId.get(c.sensorId)!.si]] : [])),
  )
  return limits.map((limit): ForecastRow => {
    const expected = expectations.find(e => e.quantity === limit.quantity) ?? null
    if (!expected)
      return {
        limit,
        expected,
        U: expanded(budgetOf(limit.quantity, limit.value, planned)),
        margin: null,
        decides: null,
        governing: null,
        better: [],
      }
    const margin = limit.comparator === 'atMost' ? limit.value - expected.value : expected.value - limit.value
    const U = expanded(budgetOf(limit.quantity, expected.value, planned))
    const decides = U === null ? null : Math.abs(margin) > U
    const roles = channels.filter(c => !c.expression)
    const without = roles.flatMap(c =>
      planned[c.role]
        ? [
            {
              role: c.role,
              U:
                expanded(
                  budgetOf(limit.quantity, expected.value, {
                    ...planned,
                    [c.role]: { fullScale: planned[c.role]!.fullScale },
                  }),
                ) ?? 0,
            },
          ]
        : [],
    )
    const governing =
      U === null ? null : (without.filter(w => w.U < U * (1 - 1e-9)).sort((a, b) => a.U - b.U)[0]?.role ?? null)
    const better =
      decides === true
        ? []
        : betterSensors({
            limit,
            value: expected.value,
            margin,
            roles,
            planned,
            inventory,
            budgetOf,
            only: U === null ? null : governing,
          })
    return { limit, expected, U, margin, decides, governing, better }
  })
}

interface Search {
  limit: ForecastLimit
  value: number
  margin: number
  roles: readonly ChannelView[]
  planned: Record<string, SensorSpecification>
  inventory: readonly InventorySensor[]
  budgetOf: BudgetOf
  only: string | null
}

const MOST_BETTER = 3

function betterSensors({
  limit,
  value,
  margin,
  roles,
  planned,
  inventory,
  budgetOf,
  only,
}: Search): ForecastRow['better'] {
  return roles
    .filter(c => only === null || c.role === only)
    .flatMap(c =>
      inventory
        .filter(s => s.kind === c.kind && s.id !== c.sensorId && s.si.fullScale >= (c.expectedPeak ?? 0))
        .flatMap(s => {
          const U = expanded(budgetOf(limit.quantity, value, { ...planned, [c.role]: s.si }))
          return U !== null && U < Math.abs(margin) ? [{ role: c.role, sensorId: s.id, name: s.name, U }] : []
        }),
    )
    .sort((a, b) => a.U - b.U)
    .slice(0, MOST_BETTER)
}
