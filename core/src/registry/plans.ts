import { plainIssue } from '../method/plainIssue'
import type * as z from 'zod'
import { HypometError } from '../error'
import { formOf } from '../method/form'
import { settingsErrors } from '../method/settings'
import { warn, type Finding } from '../plan/finding'
import type { PlanView } from '../plan/planView'
import { directBudget, type BudgetOf } from '../plan/forecast'
import type { ArticleModel } from '../plan/model'
import type { Plan } from '../plan/plan'
import type { Planning } from '../plan/planning'
import { planView } from '../plan/view'
import { formatQuantity, METRIC, type Kind, type UnitPreference } from '../quantity/index'
import type { Fact } from '../register/facts'
import { families } from './methods'
import { planWithFacts } from './planFacts'
import { readArticle } from './readArticle'
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
  /** What is written down of the revision; it fills the fields that nobody typed in. */
  facts?: readonly Fact[]
  /** Results that are limited, by the limit's name. */
  limited?: readonly { name: string; quantity: string }[]
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
  { predicted = [], facts = [], limited = [], ...options }: PlanOptions = {},
): ViewedPlan {
  const filled = planWithFacts(family, written ?? {}, facts).plan
  const parsed = planSchemaOf(family).safeParse(filled, { error: plainIssue })
  if (!parsed.success) throw settingsErrors(parsed.error.issues, filled, '')[0]!
  const plan = parsed.data
  const { stages } = families[family] ?? {}
  const planning = planningOf(family)
  const { article, missing } = readArticle(family, properties)
  const model: ArticleModel | null = article ? (stages?.model?.(plan, article as never) ?? null) : null
  const foretold = plan.examples.length === 0 ? stages?.foretells?.(plan as never) : undefined
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
  view.findings.push(
    ...(planning.findings?.(plan as never, showIn(options.prefer)) ?? []),
    ...unreadFindings(plan, planning.readBy, limited),
  )
  if (foretold)
    Object.assign(view, {
      predictions: foretold.predictions,
      predictedBy: foretold.predictions.length > 0 ? foretold.source : '',
      curves: foretold.curves,
    } satisfies Partial<PlanView>)
  if (stages?.model && !article) view.findings.push(undescribed(family, missing))
  return { plan, view, budgetOf: model ? (q, v, s) => model.budgetOf(q, v, s) : directBudget(planning.readBy) }
}

const showIn =
  (prefer: UnitPreference = METRIC) =>
  (si: number, kind: Kind) =>
    formatQuantity(si, kind, { prefer, digits: 3 })

/** A limit is decided by a reading: one without a sensor has no uncertainty. */
function unreadFindings(
  { channels }: Plan,
  readBy: Readonly<Record<string, string>>,
  limited: readonly { name: string; quantity: string }[],
): Finding[] {
  const once = new Set<string>()
  return limited.flatMap(({ name, quantity }) => {
    const i = channels.findIndex(c => c.role === readBy[quantity])
    const c = channels[i]
    if (!c || c.sensorId !== null || c.expression !== undefined || once.has(c.role)) return []
    once.add(c.role)
    return [
      warn(
        'limit-without-sensor',
        `channels.${i}.sensorId`,
        `“${name}” is decided by ${c.label}, and no sensor is named for it: the result will have no uncertainty.`,
        'Choose its sensor under Channels.',
      ),
    ]
  })
}

/** Nothing is foretold of an article that nobody has described. */
function undescribed(family: string, missing: readonly HypometError[]): Finding {
  const form = formOf(families[family]!.stages.article!)
  const fields =
    form.type === 'variant' ? form.options.flatMap(o => o.fields) : form.type === 'group' ? form.fields : []
  const titleOf = (e: HypometError) =>
    fields.find(f => `properties.${f.key}` === e.place.path)?.title.toLowerCase() ?? 'section'
  const lacks = [...new Set(missing.map(titleOf))]
  return warn(
    'article-not-described',
    'article',
    lacks.length === 0
      ? 'Section and material of the article are not written down: what is expected of it hangs on them.'
      : `Of the article nobody has said: ${lacks.join(', ')}. Expected readings and the weakest place hang on it.`,
    'Write it down on the article’s page; the test can be planned without.',
  )
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
export function planProblems(family: string, written: unknown, facts: readonly Fact[] = []): HypometError[] {
  const { plan } = planWithFacts(family, written ?? {}, facts)
  const parsed = planSchemaOf(family).safeParse(plan, { error: plainIssue })
  return parsed.success ? [] : settingsErrors(parsed.error.issues, plan, '')
}
