import type { Contribution } from '../../uncertainty/coverage'
import { sensorBudget, ZERO_DIFFERENCE_ITEMS, type SensorSpecification } from '../../uncertainty/sensor'

/**
 * Budget that a result will have by its sensors alone, before anything is read: what withUncertainty makes of a record,
 * without the record's noise.
 *
 * @param compliance  m/N, of the calculation
 */
export function forecastBudget(
  quantity: string,
  value: number,
  { load, deflection }: Readonly<Record<string, SensorSpecification | undefined>>,
  plan: { designLoad: number; compliance: number; maxTarget: number },
): Contribution[] | null {
  if (!load || !deflection) return quantity === 'maxLoad' && load ? sensorBudget(load, value) : null
  const scaled = (budget: Contribution[], factor: number) =>
    budget.map(c => ({ ...c, contribution: Math.abs(c.contribution * factor) }))
  const set = () =>
    scaled(
      sensorBudget(deflection, 0).filter(c => ZERO_DIFFERENCE_ITEMS.includes(c.name)),
      Math.SQRT2,
    )
  switch (quantity) {
    case 'maxLoad':
      return sensorBudget(load, value)
    case 'loadFactor':
      return scaled(sensorBudget(load, value * plan.designLoad), 1 / plan.designLoad)
    case 'deflectionAtDesign':
      return [...sensorBudget(deflection, value), ...scaled(sensorBudget(load, plan.designLoad), plan.compliance)]
    case 'stiffness':
      return [
        ...scaled(sensorBudget(load, plan.maxTarget / 2), value / (plan.maxTarget / 2)),
        ...scaled(
          sensorBudget(deflection, (plan.maxTarget * plan.compliance) / 2),
          value / ((plan.maxTarget * plan.compliance) / 2),
        ),
      ]
    case 'permanentSet':
      return set()
    case 'setRatio':
      return scaled(set(), 1 / (plan.maxTarget * plan.compliance))
    default:
      return null
  }
}
