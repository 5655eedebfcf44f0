import * as z from 'zod'
import { mayWait, plain, quantity, type QuantityInput } from '../../method/settings'
import { designFromField } from '../../plan/designFrom'
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
