import { families } from './methods'
import { SimulatedRig } from '../rig/simulatedRig'
import type { Specimen } from '../rig/specimen'
import { planningOf, type ViewedPlan } from './plans'
import { readArticle } from './readArticle'

export interface RigOptions {
  seed: number
  /** What is predicted of the revision's results, SI. */
  predicted?: readonly { quantity: string; value: number }[]
  /** What the article really does, where it is not drawn. */
  truth?: unknown
}

/** The stand-in for a rig on which a test of any kind can be run. @throws HypometError `unknown-family` */
export function simulatedRigOf(
  family: string,
  { plan, view }: Pick<ViewedPlan, 'plan' | 'view'>,
  properties: unknown,
  { seed, predicted = [], truth }: RigOptions,
): SimulatedRig {
  const { readBy } = planningOf(family)
  const { stages } = families[family]!
  // A result that is a reading of what is commanded says what the article carries.
  const strength = predicted.filter(p => readBy[p.quantity] === view.commanded.role).map(p => p.value)[0] ?? null
  const specimen = stages.specimen as unknown as Specimen
  return new SimulatedRig({
    plan,
    view,
    specimen,
    seed,
    truth,
    strength,
    article: stages.article ? readArticle(family, properties).article : properties,
  })
}
