import type { QuantityInput } from '../method/settings'
import { channelKinds } from '../plan/channelKinds'
import type { WrittenRung } from '../plan/ladder'
import { loadings, type LoadingKind } from '../plan/loading/index'
import type { DesignFrom } from '../plan/designFrom'
import type { Commanded } from '../plan/loading/loading'
import { firstChannels } from '../plan/planning'
import { writeLadder } from '../plan/rules'
import { inUnit, preferredUnit, type Kind, type Quantity, type UnitPreference } from '../quantity/index'
import { planningOf } from './plans'

/* Plans to begin with, as they would be entered. Numbers are typical, to be replaced. */

/** What a first plan says, beside the numbers that its kind of test has of its own. */
export interface FirstPlan extends Record<string, unknown> {
  loading: { kind: LoadingKind }
  rungs: WrittenRung[]
  ramp: QuantityInput
  rate: QuantityInput
  channels: { role: string; label: string; kind: string; type: string; sensorId: null }[]
  /** Parts that hold example numbers. */
  examples: string[]
}

export interface PlanTemplate {
  title: string
  about: string
  plan: FirstPlan
}

/** One template for each way in which this kind of test is loaded, with the channels it needs. */
export const templatesFor = (family: string, prefer: UnitPreference = {}): PlanTemplate[] =>
  planningOf(family).loadings.map(kind => {
    const { title, purpose, usual } = loadings[kind]
    const { goal, hold = 20, lookFrom = 2, shares = [0.2, 0.4, 0.6, 0.8, 1] } = usual
    const commanded = commandedBy(kind).kind
    const unit = preferredUnit(commanded, { prefer })
    const top = rounded(goal, commanded, unit)
    const rungs = writeLadder(
      { rule: 'percent', goal: top.value, percents: shares.map(s => 100 * s) },
      { unit, hold, zeroEvery: 0, lastHold: 60, lookFrom },
    )
    return { title, about: purpose, plan: planOn(family, kind, { rungs, goal: top, length: null, ramp: 15 }, true) }
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
  limits: readonly AskedOf[],
  prefer: UnitPreference = {},
): FirstPlan {
  const planning = planningOf(family)
  const kind = planning.loadings[0]!
  const loading = loadings[kind]
  const length = (properties['length'] as QuantityInput | undefined) ?? null
  const at = kind === 'points' && length !== null ? { loads: [{ x: length, share: 1 }] } : {}
  const commanded = commandedBy(kind, at)
  const read = limits.filter(l => planning.readBy[l.quantity] === commanded.role)
  const full = read.reduce((m, l) => Math.max(m, l.value), 0) || loading.usual.goal
  const design = planning.design ? (designOf(read) ?? { load: full / ULTIMATE }) : { load: full }
  const goal = rounded(design.load, commanded.kind, preferredUnit(commanded.kind, { prefer }))
  const beyond = full > 1.001 * design.load ? [(1 + full / design.load) / 2, full / design.load, 0] : []
  const shares = [0, 0.25, 0.5, 0.75, 1, 0, ...beyond]
  const rungs = shares.map((share, i): WrittenRung => ({
    target: { value: Number((share * goal.value).toPrecision(4)), unit: goal.unit },
    hold: { value: i === shares.length - 1 ? 60 : 20, unit: 's' },
  }))
  const from = 'from' in design ? { designFrom: design.from } : {}
  return { ...planOn(family, kind, { rungs, goal, length, ramp: 12 }, read.length === 0, at), ...from }
}
/** Ultimate over design load, as structures are usually asked. */
const ULTIMATE = 1.5

/** A limit as a first plan looks at it: its wall, SI, and what is in it. */
export interface AskedOf {
  quantity: string
  value: number
  name?: string
  level?: string
  /** On top of what was entered; contained in `value`. */
  factor?: number
  comparator?: string
}

/** Nearest to what design load means first. */
const LEVELS = ['limit', 'required-factor', 'service', 'ultimate']

/** The design load that limits speak of: a limit load as it stands, an ultimate load over its factor. */
function designOf(limits: readonly AskedOf[]): { load: number; from: DesignFrom } | null {
  const [first] = limits
    .filter(l => l.comparator !== 'atMost')
    .toSorted((a, b) => LEVELS.indexOf(a.level ?? 'limit') - LEVELS.indexOf(b.level ?? 'limit') || b.value - a.value)
  if (!first) return null
  const { value, name = '', level = 'limit', factor = 1 } = first
  const divided = level === 'ultimate' && factor === 1 ? ULTIMATE : factor
  return { load: value / divided, from: { limit: name, level, asked: value, divided } }
}

const commandedBy = (kind: LoadingKind, more: object = {}): Commanded =>
  loadings[kind].commanded(loadings[kind].settings.parse({ ...(loadings[kind].example as object), ...more }))

const rounded = (si: number, kind: Kind, unit: string): Quantity => ({
  value: Number(inUnit(si, kind, unit).toPrecision(4)),
  unit,
})

interface Ladder {
  rungs: WrittenRung[]
  goal: Quantity
  length: QuantityInput | null
  /** s */
  ramp: number
}

function planOn(
  family: string,
  kind: LoadingKind,
  { rungs, goal, length, ramp }: Ladder,
  isExample: boolean,
  more: object = {},
): FirstPlan {
  const planning = planningOf(family)
  const own = planning.ownExample?.(goal, length)
  return {
    loading: { kind, ...structuredClone(loadings[kind].example as object), ...more },
    rungs,
    ramp: { value: ramp, unit: 's' },
    rate: { value: loadings[kind].usual.rate ?? 10, unit: 'Hz' },
    ...own?.values,
    examples: [
      ...(Object.keys(loadings[kind].example as object).length > 0 ? ['loading'] : []),
      ...(isExample ? ['rungs', ...(own?.ofGoal ?? [])] : []),
      ...(length === null ? (own?.ofLength ?? []) : []),
    ],
    channels: firstChannels(planning, commandedBy(kind, more)).map(({ role, label, kind }) => ({
      role,
      label,
      kind,
      type: channelKinds.find(k => k.kind === kind)?.id ?? '',
      sensorId: null,
    })),
  }
}
