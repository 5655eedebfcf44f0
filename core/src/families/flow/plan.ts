import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { heldRows } from '../../method/heldRows'
import { rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import { quantity } from '../../method/settings'
import { planSchema, type NeededChannel } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { findPlateaus } from '../../signal/plateaus'
import { meanRead } from '../../statistics/mean'

const own = {
  kind: z.enum(['bench', 'map']).default('bench').meta({ title: 'What is read' }),
  liftFrom: quantity('length', { title: 'Mean flow from lift', min: 0 }).optional(),
  liftTo: quantity('length', { title: 'Mean flow to lift', positive: true }).optional(),
}

export const flowPlan = planSchema(own, ['flow', 'direct'], plan => plan.kind === 'map')
export type FlowPlan = z.output<typeof flowPlan>

/** What a map is read by: velocities, where the plan has them, else dynamic pressures. */
const probeOf = ({ channels }: Pick<FlowPlan, 'channels'>): NeededChannel =>
  channels.some(c => c.role === 'v')
    ? { role: 'v', label: 'Velocity', kind: 'velocity' }
    : { role: 'q', label: 'Dynamic pressure', kind: 'pressure' }

export const flowPlanning: Planning<FlowPlan> = {
  loadings: ['flow', 'direct'],
  needed: [
    { role: 'flow', label: 'Flow', kind: 'volumeFlow' },
    { role: 'drop', label: 'Pressure difference', kind: 'pressure' },
  ],
  neededOf: plan => (plan.kind !== 'map' ? flowPlanning.needed : [probeOf(plan)]),
  read: { role: 'flow', kind: 'volumeFlow' },
  readOf: plan => (plan.kind === 'map' ? probeOf(plan) : null),
  readBy: { meanFlow: 'flow' },
  own: z.object(own),
  begins: { flow: { hold: 10, goalBy: 'highestLift' }, direct: direct('length', 'Lift', 'lift', 0.01, 10) },
  setUp: [
    { key: 'set-up:0', text: 'Adapter sealed, leak test at lift zero done first', why: 'A leak counts as flow.' },
  ],
}

type Bench = { testPressure?: number; diameter?: number; valves?: number }

/** Bench and valve as planned; the range of lifts as planned, else that of the rows. */
export function proposeFlow({ plan, table: { channels, text } }: ProposedFrom<FlowPlan>): Record<string, unknown> {
  if (plan?.kind === 'map' || (!channels['lift'] && channels['q'])) return { kind: 'map' }
  const bench = plan?.loading.kind === 'flow' ? (plan.loading.settings as Bench) : {}
  const lifts = [...new Set(channels['lift'] ?? [])].filter(l => l > 0).sort((a, b) => a - b)
  const [from, to] = [plan?.liftFrom ?? lifts[0], plan?.liftTo ?? lifts.at(-1)]
  const names = [...new Set(text?.['config'] ?? [])]
  return {
    kind: 'bench',
    ...(bench.testPressure ? { referenceDrop: bench.testPressure } : {}),
    ...(bench.diameter ? { valveDiameter: bench.diameter } : {}),
    ...(bench.valves ? { valves: bench.valves } : {}),
    ...(from !== undefined && to !== undefined && from < to ? { liftRange: [from, to] } : {}),
    ...(names.length > 1 ? { baseline: names[0], subject: names.at(-1) } : {}),
  }
}

/** A lift is held within this share of the highest. */
const SAME_LIFT = 0.01
const SHORTEST_HOLD = 3

/** A run over the lifts as rows of the bench: the mean of each hold, at the lift that was planned. */
export function rowsFromRun(table: Table, plan: FlowPlan | null, name: string): Table {
  if (plan?.kind === 'map' && table.channels['x'] && table.channels['y'] && table.t.length > 0)
    return heldRows(
      table,
      ['x', 'y'],
      plan.rungs.map(r => [r.target, r.also[plan.also.findIndex(a => a.name === 'y')] ?? 0]),
    )
  if (table.text?.['config'] || !table.channels['lift'] || table.t.length === 0) return table
  const { t, channels, units } = rowsWith(table, ['lift'])
  const lift = channels['lift']!
  const targets = [...new Set((plan?.rungs ?? []).map(r => r.target))]
  const highest = lift.reduce((m, v) => Math.max(m, v), 0)
  const held = findPlateaus(t, lift, SAME_LIFT * highest, SHORTEST_HOLD)
  const planned = (v: number) =>
    targets.reduce((best, r) => (Math.abs(r - v) < Math.abs(best - v) ? r : best), Infinity)
  const means = (y: Float64Array) => Float64Array.from(held, p => meanRead(y.subarray(p.from, p.to)))
  const rows = Object.fromEntries(Object.entries(channels).map(([role, y]) => [role, means(y)]))
  rows['lift'] = rows['lift']!.map(v => (Math.abs(planned(v) - v) <= 2 * SAME_LIFT * highest ? planned(v) : v))
  return { t: new Float64Array(0), channels: rows, units, text: { config: held.map(() => name) } }
}
