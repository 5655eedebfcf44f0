import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { shownWindow } from '../../signal/window'

const own = {
  ambient: quantity('temperature', { title: 'Ambient', positive: true }).optional(),
  limit: quantity('temperature', { title: 'Not above', positive: true }).optional(),
}

export const thermalPlan = planSchema(own, ['direct'])
export type ThermalPlan = z.output<typeof thermalPlan>

export const thermalPlanning: Planning<ThermalPlan> = {
  loadings: ['direct'],
  needed: [
    { role: 'temperature', label: 'Temperature', kind: 'temperature' },
    { role: 'power', label: 'Power', kind: 'power' },
  ],
  read: { role: 'temperature', kind: 'temperature' },
  readBy: { steadyTemperature: 'temperature' },
  own: z.object(own),
  begins: { direct: direct('power', 'Heating power', 'power', 100, 1800) },
  setUp: [
    {
      key: 'set-up:0',
      text: 'Ambient read away from the article, draughts kept off',
      why: 'A rise counts from the ambient.',
    },
  ],
}

/** A power that is on reaches so much of its largest. */
const ON = 0.9

/**
 * Ambient as planned, else the temperature before the power comes, else to be said; the longest stretch at full power
 * is the window.
 */
export function proposeThermal({ plan, table: { t, channels } }: ProposedFrom<ThermalPlan>): Record<string, unknown> {
  const { temperature, power } = channels
  if (t.length === 0 || !temperature) return {}
  const [from, to] = power ? longestOn(power) : [0, t.length - 1]
  const before = power && from > 0 ? temperature.subarray(0, from).reduce((a, b) => a + b, 0) / from : null
  const ambient = plan?.ambient ?? before
  return {
    window: shownWindow(t, t[from]!, t[to]!) ?? [t[from]!, t[to]!],
    ...(ambient === null ? {} : { ambient: Number(ambient.toFixed(2)) }),
    ...(plan?.limit ? { limit: plan.limit } : {}),
  }
}

function longestOn(power: Float64Array): [number, number] {
  const level = ON * power.reduce((m, v) => Math.max(m, v), 0)
  let best: [number, number] = [0, power.length - 1]
  let longest = 0
  for (let i = 0; i < power.length; i++) {
    if (!(power[i]! >= level)) continue
    let end = i
    while (end + 1 < power.length && power[end + 1]! >= level) end++
    if (end - i > longest) [longest, best] = [end - i, [i, end]]
    i = end
  }
  return best
}
