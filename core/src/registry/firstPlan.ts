import type { QuantityInput } from '../method/settings'
import { channelKinds } from '../plan/channelKinds'
import type { WrittenRung } from '../plan/ladder'
import { loadings, type LoadingKind } from '../plan/loading/index'
import type { Commanded } from '../plan/loading/loading'
import { firstChannels } from '../plan/planning'
import { writeLadder } from '../plan/rules'
import { siUnit } from '../quantity/index'
import { planningOf } from './plans'

/* Plans to begin with, as they would be entered. Numbers are typical, to be replaced. */

/** What a first plan says, beside the numbers that its kind of test has of its own. */
export interface FirstPlan extends Record<string, unknown> {
  loading: { kind: LoadingKind }
  rungs: WrittenRung[]
  ramp: QuantityInput
  rate: QuantityInput
  channels: { role: string; label: string; kind: string; type: string; sensorId: null }[]
}

export interface PlanTemplate {
  title: string
  about: string
  plan: FirstPlan
}

/** One template for each way in which this kind of test is loaded, with the channels it needs. */
export const templatesFor = (family: string): PlanTemplate[] =>
  planningOf(family).loadings.map(kind => {
    const { title, purpose, usual } = loadings[kind]
    const { goal, hold = 20, lookFrom = 2, shares = [0.2, 0.4, 0.6, 0.8, 1] } = usual
    const rungs = writeLadder(
      { rule: 'percent', goal, percents: shares.map(s => 100 * s) },
      { unit: siUnit(commandedBy(kind).kind), hold, zeroEvery: 0, lastHold: 60, lookFrom },
    )
    return { title, about: purpose, plan: planOn(family, kind, { rungs, goal, length: null, ramp: 15 }) }
  })

/**
 * A plan for a test that has none: the usual way of loading for its kind, its needed channels, and a ladder in quarters
 * of what its limit asks, with a zero before going beyond where the kind tells design from ultimate load.
 *
 * @param properties  of the article; its length places a load at its end
 */
export function firstPlan(
  family: string,
  properties: Readonly<Record<string, unknown>>,
  limits: readonly { quantity: string; value: number }[],
): FirstPlan {
  const planning = planningOf(family)
  const kind = planning.loadings[0]!
  const loading = loadings[kind]
  const length = (properties['length'] as QuantityInput | undefined) ?? null
  const at = kind === 'points' && length !== null ? { loads: [{ x: length, share: 1 }] } : {}
  const commanded = commandedBy(kind, at)
  const limit = limits.find(l => planning.readBy[l.quantity] === commanded.role)
  const full = limit?.value ?? loading.usual.goal
  const goal = planning.design ? Number((full / ULTIMATE).toPrecision(4)) : full
  const beyond = planning.design ? [1.25, ULTIMATE, 0] : []
  const shares = [0, 0.25, 0.5, 0.75, 1, 0, ...beyond]
  const rungs = shares.map((share, i): WrittenRung => ({
    target: { value: Number((share * goal).toPrecision(4)), unit: siUnit(commanded.kind) },
    hold: { value: i === shares.length - 1 ? 60 : 20, unit: 's' },
  }))
  return planOn(family, kind, { rungs, goal, length, ramp: 12 }, at)
}
/** Ultimate over design load, as structures are usually asked. */
const ULTIMATE = 1.5

const commandedBy = (kind: LoadingKind, more: object = {}): Commanded =>
  loadings[kind].commanded(loadings[kind].settings.parse({ ...(loadings[kind].example as object), ...more }))

interface Ladder {
  rungs: WrittenRung[]
  /** SI */
  goal: number
  length: QuantityInput | null
  /** s */
  ramp: number
}

function planOn(
  family: string,
  kind: LoadingKind,
  { rungs, goal, length, ramp }: Ladder,
  more: object = {},
): FirstPlan {
  const planning = planningOf(family)
  return {
    loading: { kind, ...structuredClone(loadings[kind].example as object), ...more },
    rungs,
    ramp: { value: ramp, unit: 's' },
    rate: { value: loadings[kind].usual.rate ?? 10, unit: 'Hz' },
    ...(planning.ownExample?.(goal, length) ?? {}),
    channels: firstChannels(planning, commandedBy(kind, more)).map(({ role, label, kind }) => ({
      role,
      label,
      kind,
      type: channelKinds.find(k => k.kind === kind)?.id ?? '',
      sensorId: null,
    })),
  }
}
