import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { heldRows } from '../../method/heldRows'
import type { Table } from '../../method/table'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { circuitField } from './circuitField'

export const BUILD_STEPS = ['bare', 'bonded', 'potted'] as const

const own = {
  kind: z.enum(['sweep', 'beam']).default('sweep').meta({ title: 'What is read' }),
  step: z.enum(BUILD_STEPS).optional().meta({ title: 'Step of the build' }),
  model: circuitField,
  distance: quantity('length', { title: 'Hydrophone at', positive: true }).optional(),
}

export const transducerPlan = planSchema(own, ['direct'], plan => plan.kind === 'beam')
export type TransducerPlan = z.output<typeof transducerPlan>

export const transducerPlanning: Planning<TransducerPlan> = {
  loadings: ['direct'],
  needed: [
    { role: 'magnitude', label: 'Impedance', kind: 'resistance' },
    { role: 'phase', label: 'Phase', kind: 'angle' },
  ],
  neededOf: plan =>
    plan.kind === 'beam' ? [{ role: 'level', label: 'Level', kind: 'level' }] : transducerPlanning.needed,
  read: { role: 'magnitude', kind: 'resistance' },
  readOf: plan => (plan.kind === 'beam' ? { role: 'level', kind: 'level' } : null),
  readBy: {},
  own: z.object(own),
  begins: { direct: direct('voltage', 'Drive voltage', 'driveVoltage', 10, 10) },
  setUp: [{ key: 'set-up:0', text: 'Cable open and shorted for its own capacity', why: 'A cable counts as element.' }],
}

/** What was read tells itself by its columns; the model's circuit as planned. */
export function proposeTransducer({
  plan,
  table: { channels },
}: ProposedFrom<TransducerPlan>): Record<string, unknown> {
  const isImpedance = channels['magnitude'] !== undefined || channels['resistance'] !== undefined
  const isSound = channels['pressure'] !== undefined || channels['level'] !== undefined
  const kind =
    channels['angle'] && channels['level'] && !channels['frequency']
      ? 'beam'
      : isSound && !isImpedance
        ? 'response'
        : 'sweep'
  return { kind, ...(kind === 'sweep' && plan?.model ? { model: plan.model } : {}) }
}

const MOST_ROWS = 4000

/**
 * A run angle by angle as rows of its pattern; one that sweeps as rows over frequency: where it stood, no more of them
 * than can be told apart.
 */
export function rowsFromSweep(table: Table, plan: TransducerPlan | null): Table {
  if (plan?.kind === 'beam' && table.channels['angle'] && table.t.length > 0)
    return heldRows(
      table,
      ['angle'],
      [...new Set(plan.rungs.map(r => r.target))].map(a => [a]),
    )
  const { t, channels, units } = table
  const f = channels['frequency']
  if (!f || t.length === 0) return table
  const up = Array.from(f.keys()).filter(i => f[i]! > 0 && (i === 0 || f[i]! > f[i - 1]!))
  const stride = Math.max(1, Math.ceil(up.length / MOST_ROWS))
  const rows = up.filter((_, k) => k % stride === 0)
  return {
    t: new Float64Array(0),
    units,
    channels: Object.fromEntries(
      Object.entries(channels).map(([role, y]) => [role, Float64Array.from(rows, i => y[i]!)]),
    ),
  }
}
