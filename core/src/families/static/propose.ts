import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { findPlateaus } from '../../signal/plateaus'
import { shownWindow } from '../../signal/window'
import type { StaticPlan } from './plan'
import { CALLED_OUT, OUTCOMES, type Outcome, type StaticSettings } from './settings'

/**
 * Settings to begin a reduction with, from the plan and the record: the zero windows are the first and the last
 * plateau near no load, a little trimmed at their ends.
 */
export function proposeStatic({
  plan,
  table: { t, channels },
  outcome,
}: ProposedFrom<StaticPlan>): Partial<StaticSettings> {
  const load = channels['load']
  if (!load) return {}
  const largest = load.reduce((m, v) => Math.max(m, v), -Infinity)
  const smallest = load.reduce((m, v) => Math.min(m, v), Infinity)
  // Of a plan as far as somebody wrote it; without one a hold is told by the record's own size.
  const said: Partial<StaticPlan> = plan ?? {}
  const { designLoad, minHold = 10, holdTolerance = Number((0.01 * (largest - smallest)).toPrecision(2)) } = said
  const known = omitUndefined({
    designLoad,
    minHold,
    ...(holdTolerance > 0 ? { holdTolerance } : {}),
    outcome: isOutcome(outcome) ? outcome : ('no-failure' as const),
  })
  if (t.length < CALLED_OUT) return { ...calledRows(t, load), ...known }
  const plateaus = findPlateaus(t, load, holdTolerance, minHold)
  const first = plateaus[0]
  const firstLoad = first ? meanOf(load, first) : load[0]!
  const nearZero = plateaus.filter(p => meanOf(load, p) - firstLoad < 0.05 * (largest - firstLoad))
  const trimmed = (p: { from: number; to: number }): [number, number] => {
    const [a, b] = [t[p.from]!, t[p.to - 1]!]
    const edge = Math.min(2, 0.1 * (b - a))
    return shownWindow(t, a + edge, b - edge) ?? [a, b]
  }
  const last = nearZero.at(-1)
  const hasEnd = last !== undefined && last !== nearZero[0] && last === plateaus.at(-1)
  return {
    zeroStart: nearZero[0] ? trimmed(nearZero[0]) : [t[0]!, t[Math.min(t.length - 1, 9)]!],
    ...(hasEnd ? { zeroEnd: trimmed(last) } : {}),
    ...known,
  }
}

/** The first row is the zero where little is on, and the last one where little is on again. */
function calledRows(t: Float64Array, load: Float64Array): Partial<StaticSettings> {
  const largest = load.reduce((m, v) => Math.max(m, v), 0)
  const around = (i: number): [number, number] => {
    const half = i === 0 ? ((t[1] ?? t[0]! + 1) - t[0]!) / 2 : (t[i]! - t[i - 1]!) / 2
    return [t[i]! - half, t[i]! + half]
  }
  const isFree = (i: number) => Math.abs(load[i]!) <= NEAR_ZERO * largest
  const last = t.length - 1
  return {
    ...(isFree(0) ? { zeroStart: around(0) } : {}),
    ...(last > 0 && isFree(last) ? { zeroEnd: around(last) } : {}),
  }
}
const NEAR_ZERO = 0.05

const isOutcome = (text: string): text is Outcome => (OUTCOMES as readonly string[]).includes(text)

function meanOf(y: Float64Array, { from, to }: { from: number; to: number }): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += y[i]!
  return sum / (to - from)
}
