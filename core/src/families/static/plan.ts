import * as z from 'zod'
import { mayWait, plain, quantity, type QuantityInput } from '../../method/settings'
import { designFromField } from '../../plan/designFrom'
import { warn, type Finding } from '../../plan/finding'
import { planSchema } from '../../plan/plan'
import type { Planning } from '../../plan/planning'

/** What a plan of a static test holds beside what every plan does. */
const own = {
  designLoad: mayWait(quantity('force', { title: 'Design load', positive: true })),
  deflectionAt: mayWait(quantity('length', { title: 'Deflection read at', positive: true })),
  support: z.enum(['root', 'both ends']).default('root').meta({ title: 'Held at' }),
  minHold: quantity('time', { title: 'Shortest hold', positive: true }).default(10),
  holdTolerance: mayWait(quantity('force', { title: 'Hold tolerance', positive: true })),
  predictionBand: plain({ title: 'Model uncertainty', positive: true, max: 1 }).default(0.1),
}

export const staticPlan = planSchema({ ...own, designFrom: designFromField }, ['points', 'bags', 'stations', 'bladder'])

export type StaticPlan = z.output<typeof staticPlan>
export type StaticPlanInput = z.input<typeof staticPlan>

/** What a hold may wander by: at most so much of the ladder's smallest step, at least so much of its top rung. */
const [OF_STEP, OF_TOP] = [0.5, 1e-4]

/** A tolerance that was left from another ladder tells every sample as held, or none. */
function toleranceFindings(
  { holdTolerance, rungs }: StaticPlan,
  show: (si: number, kind: 'force') => string,
): Finding[] {
  const levels = [...new Set(rungs.map(r => r.target))].sort((a, b) => a - b)
  const steps = levels.slice(1).map((v, i) => v - levels[i]!)
  const [smallest, top] = [Math.min(...steps), levels.at(-1)!]
  if (holdTolerance === undefined || (holdTolerance <= OF_STEP * smallest && holdTolerance >= OF_TOP * top)) return []
  const why =
    holdTolerance > OF_STEP * smallest
      ? `it is more than half of the smallest step of ${show(smallest, 'force')}, so that rungs run into each other`
      : `nothing is held as still as that at ${show(top, 'force')}`
  return [
    warn(
      'tolerance-scale',
      'holdTolerance',
      `The hold tolerance of ${show(holdTolerance, 'force')} does not go with this ladder: ${why}.`,
      `Some ${show(Number((0.1 * smallest).toPrecision(1)), 'force')} would do; left empty, the record tells it.`,
    ),
  ]
}

const shareOf = (q: QuantityInput, share: number): QuantityInput =>
  typeof q === 'number' ? share * q : { ...q, value: Number((share * q.value).toPrecision(2)) }

export const staticPlanning: Planning<StaticPlan> = {
  loadings: ['points', 'bags', 'stations', 'bladder'],
  needed: [
    { role: 'load', label: 'Load', kind: 'force' },
    { role: 'deflection', label: 'Deflection', kind: 'length' },
  ],
  read: { role: 'deflection', kind: 'length' },
  readBy: { maxLoad: 'load', deflectionAtDesign: 'deflection', permanentSet: 'deflection' },
  own: z.object(own),
  first: ({ goal, length }) => ({
    ...(goal === null ? {} : { designLoad: goal, holdTolerance: shareOf(goal, 0.01) }),
    ...(length === null ? {} : { deflectionAt: length }),
    minHold: { value: 12, unit: 's' },
    predictionBand: 0.1,
  }),
  findings: toleranceFindings,
  readAt: plan => plan.deflectionAt,
  design: plan => plan.designLoad,
  designFrom: plan => plan.designFrom,
  setUp: [
    {
      key: 'fixture',
      text: 'Root clamp and load introduction as drawn, loose fits written down',
      why: 'A fixture that breaks or pulls on the part says little of the article.',
    },
  ],
}
