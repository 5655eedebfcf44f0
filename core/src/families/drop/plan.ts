import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { quantity } from '../../method/settings'
import type { Table } from '../../method/table'
import { planSchema, topOf } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { median } from '../../statistics/quantile'
import { quietStart } from '../../signal/quietStart'
import { STANDARD_GRAVITY } from '../../quantity/units'

const own = {
  toldBy: quantity('acceleration', { title: 'A drop is told by', positive: true }).optional(),
  keptBefore: quantity('time', { title: 'Kept before it', positive: true, max: 60 }).optional(),
  keptAfter: quantity('time', { title: 'Kept after it', positive: true, max: 60 }).optional(),
  seated: z.boolean().default(false).meta({ title: 'A person sits in it' }),
  recordedHeight: quantity('length', {
    title: 'Height of the drop that is recorded, where not the highest',
    positive: true,
  }).optional(),
}

export const dropPlan = planSchema(own, ['drop', 'direct'])
export type DropPlan = z.output<typeof dropPlan>

export const dropPlanning: Planning<DropPlan> = {
  loadings: ['drop', 'direct'],
  needed: [{ role: 'acceleration', label: 'Acceleration', kind: 'acceleration' }],
  read: { role: 'acceleration', kind: 'acceleration' },
  readBy: { peak: 'acceleration', plateau: 'acceleration' },
  own: z.object(own),
  begins: {
    drop: { hold: 1, goalBy: 'height', units: ['m', 'ft'] },
    direct: direct('length', 'Drop height', 'height', 1, 1),
  },
  setUp: [{ key: 'set-up:0', text: 'Guide greased, release tried empty', why: 'What hangs up falls later.' }],
}

/** As the loading says a drop. */
export type Fall = {
  mass?: number
  guideLoss?: number
  cfc?: number
  restitution?: number
  deceleration?: number
  stroke?: number
}
export const fallOf = (plan: Pick<DropPlan, 'loading'> | null): Fall =>
  plan?.loading.kind === 'drop' ? (plan.loading.settings as Fall) : {}

/** That of the plan whose record counts, m. */
const plannedHeight = (plan: DropPlan | null): number | undefined =>
  plan?.recordedHeight ?? (plan?.commanded.kind === 'length' ? plan.rungs[topOf(plan.rungs)]?.target : undefined)

/** What it hung at, as a run has recorded it: a rung of the plan where it is near one; undefined where it hung not. */
function heightIn(height: Float64Array | undefined, plan: DropPlan | null): number | undefined {
  const highest = height?.reduce((m, v) => (v > m ? v : m), 0) ?? 0
  if (!height || highest === 0) return undefined
  const hung = median(height.filter(v => v > highest / 2))
  return plan?.rungs.find(r => Math.abs(r.target - hung) <= SAME_HEIGHT * hung)?.target ?? hung
}

/** The drop from the height that the plan records, else the last. */
export function recordedDrop(pieces: readonly Table[], plan: DropPlan | null): number {
  const planned = plannedHeight(plan)
  const at = pieces.findLastIndex(p => planned !== undefined && heightIn(p.channels['height'], plan) === planned)
  return at < 0 ? pieces.length - 1 : at
}
/** Share of it by which a height may be off its rung. */
const SAME_HEIGHT = 0.01

/** Zero from the fall, class, mass and the velocity that the planned height gives after the guide's loss. */
export function proposeDrop({ plan, table: { t, channels } }: ProposedFrom<DropPlan>): Record<string, unknown> {
  const { mass, guideLoss = 0, cfc = 60 } = fallOf(plan)
  const height = heightIn(channels['height'], plan) ?? plannedHeight(plan)
  const zeroStart = channels['acceleration'] ? quietStart(t, channels['acceleration']) : null
  return {
    cfc,
    ...(mass ? { mass } : {}),
    ...(height ? { impactVelocity: Math.sqrt(2 * STANDARD_GRAVITY * height * (1 - guideLoss)) } : {}),
    ...(plan?.seated ? { spine: true } : {}),
    ...(zeroStart ? { zeroStart } : {}),
  }
}
