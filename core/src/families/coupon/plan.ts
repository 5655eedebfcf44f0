import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import type { Table } from '../../method/table'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'

const size = (title: string) => quantity('length', { title, positive: true }).optional()

const own = {
  kind: z
    .enum(['tension', 'compression', 'inPlaneShear', 'bearing', 'flexure'])
    .default('tension')
    .meta({ title: 'Kind of coupon' }),
  width: size('Width'),
  thickness: size('Thickness'),
  diameter: size('Pin'),
  span: size('Span'),
}

export const couponPlan = planSchema(own, ['pull', 'direct'])
export type CouponPlan = z.output<typeof couponPlan>

export const couponPlanning: Planning<CouponPlan> = {
  loadings: ['pull', 'direct'],
  needed: [
    { role: 'force', label: 'Force', kind: 'force' },
    { role: 'strain', label: 'Strain', kind: 'strain' },
  ],
  read: { role: 'strain', kind: 'strain' },
  readBy: {},
  own: z.object(own),
  begins: { direct: direct('length', 'Crosshead', 'crosshead', 0.01) },
  setUp: [
    { key: 'set-up:0', text: 'Width and thickness of every coupon measured', why: 'A strength is a force over them.' },
  ],
}

export function proposeCoupon({ plan }: ProposedFrom<CouponPlan>): Record<string, unknown> {
  return {
    kind: plan?.kind ?? 'tension',
    ...(plan?.diameter ? { diameter: plan.diameter } : {}),
    ...(plan?.span ? { span: plan.span } : {}),
  }
}

/** A run is one coupon: its name, width and thickness stand beside every sample. */
export function couponFromRun(table: Table, plan: CouponPlan | null, name: string): Table {
  const { t, channels, text } = table
  const n = t.length
  if (text?.['specimen'] || n === 0) return table
  const every = (v: number | undefined) => (v === undefined ? null : new Float64Array(n).fill(v))
  const [width, thickness] = [channels['width'] ?? every(plan?.width), channels['thickness'] ?? every(plan?.thickness)]
  return {
    ...table,
    text: { ...text, specimen: new Array<string>(n).fill(name) },
    channels: { ...channels, ...(width ? { width } : {}), ...(thickness ? { thickness } : {}) },
    units: { ...table.units, width: 'm', thickness: 'm' },
  }
}
