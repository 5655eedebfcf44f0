import type { ReduceContext } from '../../method/table'
import type { Result } from '../../method/reduction'
import { combine, type Contribution } from '../../uncertainty/coverage'
import { sensorBudget, ZERO_DIFFERENCE_ITEMS, type SensorSpecification } from '../../uncertainty/sensor'
import type { StaticAnalysis } from './analysis'
import type { StaticSettings } from './settings'

/**
 * Standard uncertainties of the static results from the sensors' budgets and the record's own noise, by first-order
 * propagation. Without a specification of both sensors nothing is claimed, and results stay without u.
 *
 * - largest load: the load sensor at that reading, and one reading's noise;
 * - deflection at design: the deflection sensor there, its noise, and the load sensor through the compliance 1/k;
 * - stiffness: both sensors over the span of the fit (an error common to both ends would cancel, so this is the safe
 *   side), and the standard error of the slope;
 * - permanent set: a difference of two readings near zero, so only what does not repeat counts, twice.
 *
 * @source JCGM 100:2008 (GUM), 5.1
 */
export function withUncertainty(
  results: Record<string, Result>,
  a: StaticAnalysis,
  s: StaticSettings,
  { sensors }: ReduceContext,
): Record<string, Result> {
  const { load, deflection } = sensors
  if (!load || !deflection) return results
  const budgets: Record<string, Contribution[]> = {
    maxLoad: maxLoadBudget(a, load),
    deflectionAtDesign:
      a.deflectionAtDesign === null ? [] : deflectionBudget(a, a.deflectionAtDesign, load, deflection, s.designLoad),
    stiffness: a.fit ? stiffnessBudget(a.fit, load, deflection) : [],
    permanentSet: a.zeroStart && a.zeroEnd ? setBudget(a.zeroStart, a.zeroEnd, deflection) : [],
  }
  budgets['loadFactor'] = scaled(budgets['maxLoad']!, 1 / s.designLoad)
  budgets['setRatio'] = scaled(budgets['permanentSet']!, 1 / a.largestDeflection)
  return Object.fromEntries(
    Object.entries(results).map(([key, result]) => {
      const budget = budgets[key]
      if (!budget?.length || result.value === null) return [key, result]
      const { u, k } = combine(budget)
      return [key, { ...result, u, k }]
    }),
  )
}

const scaled = (budget: Contribution[], factor: number): Contribution[] =>
  budget.map(c => ({ ...c, contribution: Math.abs(c.contribution * factor) }))

const noise = (name: string, contribution: number): Contribution => ({ name, contribution, dof: Infinity })

const maxLoadBudget = (a: StaticAnalysis, load: SensorSpecification): Contribution[] => [
  ...sensorBudget(load, a.maxLoad),
  noise('noise', a.loadNoise),
]

function deflectionBudget(
  a: StaticAnalysis,
  value: number,
  load: SensorSpecification,
  deflection: SensorSpecification,
  designLoad: number,
): Contribution[] {
  const compliance = a.fit ? 1 / a.fit.slope : Math.abs(value / designLoad)
  return [
    ...sensorBudget(deflection, value),
    noise('noise', a.deflectionNoise),
    ...scaled(sensorBudget(load, designLoad), compliance),
    noise('load noise', a.loadNoise * Math.abs(compliance)),
  ]
}

function stiffnessBudget(
  fit: NonNullable<StaticAnalysis['fit']>,
  load: SensorSpecification,
  deflection: SensorSpecification,
): Contribution[] {
  const { slope, slopeError, loadSpan, deflectionSpan, n } = fit
  return [
    ...scaled(sensorBudget(load, loadSpan), slope / loadSpan),
    ...scaled(sensorBudget(deflection, deflectionSpan), slope / deflectionSpan),
    { name: 'fit', contribution: slopeError, dof: Math.max(1, n - 2) },
  ]
}

type Zero = NonNullable<StaticAnalysis['zeroStart']>

function setBudget(start: Zero, end: Zero, deflection: SensorSpecification): Contribution[] {
  const onceEach = sensorBudget(deflection, 0).filter(c => ZERO_DIFFERENCE_ITEMS.includes(c.name))
  return [...scaled(onceEach, Math.SQRT2), noise('zero at the start', start.error), noise('zero at the end', end.error)]
}
