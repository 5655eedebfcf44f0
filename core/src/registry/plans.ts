import { plainIssue } from '../method/plainIssue'
import type * as z from 'zod'
import { HypometError } from '../error'
import { parseSettings, settingsErrors } from '../method/settings'
import type { PlanView } from '../plan/planView'
import { directBudget, type BudgetOf } from '../plan/forecast'
import type { ArticleModel } from '../plan/model'
import type { Plan } from '../plan/plan'
import type { Planning } from '../plan/planning'
import { planView } from '../plan/view'
import type { UnitPreference } from '../quantity/index'
import { families } from './methods'
import type { SensorSpecification } from '../uncertainty/sensor'

/* A plan of any kind of test. */

/** @throws HypometError `unknown-family` */
export function planningOf(family: string): Planning<never> {
  const planning = families[family]?.stages.planning
  if (!planning) throw new HypometError('unknown-family', `There is no kind of test “${family}”.`, { path: 'family' })
  return planning as Planning<never>
}

export function planSchemaOf(family: string): z.ZodType<Plan> {
  planningOf(family)
  return families[family]!.stages.plan as z.ZodType<Plan>
}

export interface PlanOptions {
  prefer?: UnitPreference
  expectedPlaces?: readonly { place: string; by: string }[]
  /** What is predicted of the revision's results, SI. */
  predicted?: readonly { quantity: string; value: number }[]
}

export interface ViewedPlan {
  plan: Plan
  view: PlanView
  budgetOf: BudgetOf
}

/**
 * A plan as entered, read and worked out.
 *
 * @throws HypometError of the contract, at its place in the plan or at `properties`
 */
export function viewPlanOf(
  family: string,
  written: unknown,
  properties: unknown,
  sensors: Readonly<Record<number, SensorSpecification>>,
  { predicted = [], ...options }: PlanOptions = {},
): ViewedPlan {
  const parsed = planSchemaOf(family).safeParse(written ?? {}, { error: plainIssue })
  if (!parsed.success) throw settingsErrors(parsed.error.issues, written, '')[0]!
  const plan = parsed.data
  const { stages } = families[family] ?? {}
  const planning = planningOf(family)
  const model: ArticleModel | null =
    stages?.model && stages.article ? stages.model(plan, parseSettings(stages.article, properties, 'properties')) : null
  const view = planView(plan, {
    model,
    sensors,
    needed: planning.neededOf?.(plan as never) ?? planning.needed,
    read: planning.readOf?.(plan as never) ?? planning.read,
    readAt: planning.readAt?.(plan as never) ?? null,
    design: planning.design?.(plan as never) ?? null,
    designFrom: planning.designFrom?.(plan as never) ?? null,
    predictedPeaks: peaksOf(predicted, planning.readBy),
    ...options,
  })
  return { plan, view, budgetOf: model ? (q, v, s) => model.budgetOf(q, v, s) : directBudget(planning.readBy) }
}

/** The largest reading that predictions of results speak of, by the channel that reads them. */
function peaksOf(
  predicted: readonly { quantity: string; value: number }[],
  readBy: Readonly<Record<string, string>>,
): Record<string, number> {
  const peaks: Record<string, number> = {}
  for (const { quantity, value } of predicted) {
    const role = readBy[quantity]
    if (role !== undefined && value > (peaks[role] ?? 0)) peaks[role] = value
  }
  return peaks
}

/** Every complaint about a plan as entered, in its order. */
export function planProblems(family: string, written: unknown): HypometError[] {
  const parsed = planSchemaOf(family).safeParse(written ?? {}, { error: plainIssue })
  return parsed.success ? [] : settingsErrors(parsed.error.issues, written, '')
}
