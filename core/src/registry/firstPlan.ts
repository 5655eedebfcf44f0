import type { QuantityInput } from '../method/settings'
import { channelKinds } from '../plan/channelKinds'
import type { DesignFrom } from '../plan/designFrom'
import type { WrittenRung } from '../plan/ladder'
import { loadings, type LoadingKind } from '../plan/loading/index'
import type { Commanded } from '../plan/loading/loading'
import { topOf } from '../plan/plan'
import { firstChannels, type FirstKnown } from '../plan/planning'
import { fromUnit, inUnit, preferredUnit, type Kind, type Quantity, type UnitPreference } from '../quantity/index'
import { anySi, type Fact } from '../register/facts'
import { enteredOf } from '../register/knownFacts'
import { knownFactsOf, planWithFacts, planWithoutFacts } from './planFacts'
import { planningOf, planSchemaOf } from './plans'

/* Plans to begin with, as they would be entered: what article, limits and the last test say, and nothing else. */

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

/** What is known before anything is planned. */
export interface PlannedFrom {
  /** Of the article; its length places a load at its end. */
  properties?: Readonly<Record<string, unknown>>
  limits?: readonly AskedOf[]
  facts?: readonly Fact[]
  prefer?: UnitPreference
  /** The plan of the article's last test, and what was written down of the revision that it tested. */
  last?: { plan: Readonly<Record<string, unknown>>; facts: readonly Fact[] } | null
}

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

/** One for each way in which this kind of test is loaded, with the channels it needs. */
export const templatesFor = (family: string, known: PlannedFrom = {}): PlanTemplate[] =>
  planningOf(family).loadings.map(kind => {
    const { title, purpose } = loadings[kind]
    return { title, about: purpose, plan: planOn(family, kind, known) }
  })

/**
 * A plan for a test that has none: as the article was tested last; else the usual way of loading for its kind, its
 * needed channels, and round rungs to what its limit asks, with a zero before going beyond where the kind tells design
 * from ultimate load. What nobody has said is left open.
 */
export function firstPlan(family: string, known: PlannedFrom = {}): FirstPlan {
  const after = known.last ? planAfter(family, known.last, known) : null
  return after ?? planOn(family, planningOf(family).loadings[0]!, known)
}

/** Ultimate over design load, as structures are usually asked. */
const ULTIMATE = 1.5

interface Goal {
  /** As it is written: what the ladder goes to at first, and as far as it goes. */
  design: Quantity
  full: Quantity
  from: DesignFrom | null
  /** No limit says it. */
  isUsual: boolean
}

function goalOf(family: string, kind: LoadingKind, commanded: Commanded, o: PlannedFrom): Goal {
  const planning = planningOf(family)
  const [metric, imperial] = planning.begins?.[kind]?.units ?? []
  const campaigns = preferredUnit(commanded.kind, { prefer: o.prefer ?? {} })
  const unit = metric === undefined ? campaigns : isImperial(o.prefer) ? imperial! : metric
  const written = (si: number) => rounded(si, commanded.kind, unit)
  const read = (o.limits ?? []).filter(l => planning.readBy[l.quantity] === commanded.role)
  if (read.length === 0) {
    const said = goalByFact(family, planning.begins?.[kind]?.goalBy, o.facts ?? [])
    if (said !== null) return { design: written(said), full: written(said), from: null, isUsual: false }
    const usual = roundUp(inUnit(planning.begins?.[kind]?.goal ?? loadings[kind].usual.goal, commanded.kind, unit))
    return { design: { value: usual, unit }, full: { value: usual, unit }, from: null, isUsual: true }
  }
  const full = read.reduce((m, l) => Math.max(m, l.value), 0)
  const design = planning.design
    ? (designOf(read) ?? { load: full / ULTIMATE, from: null })
    : { load: full, from: null }
  return { design: written(design.load), full: written(full), from: design.from, isUsual: false }
}

const isImperial = (prefer: UnitPreference = {}): boolean => ['in', 'ft'].includes(prefer.length ?? '')

/** What the article itself says of how far to go, SI. */
function goalByFact(family: string, key: string | undefined, facts: readonly Fact[]): number | null {
  const known = key === undefined ? undefined : knownFactsOf(family).find(k => k.key === key)
  const value = known ? enteredOf(facts, known) : null
  return value === null ? null : anySi(value)
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

/** At most so many steps to a goal. */
const STEPS = 7

/** Steps that crews use: 1, 2 or 5 of a power of ten, three to seven of them to a goal. */
export function roundStep(goal: number): number {
  const decade = 10 ** Math.floor(Math.log10(goal / STEPS))
  const step = [1, 2, 5, 10].find(s => goal / (s * decade) <= STEPS * (1 + 1e-9)) ?? 10
  return Number((step * decade).toPrecision(2))
}

const roundUp = (value: number): number => {
  const step = roundStep(value)
  return Number((Math.ceil(value / step - 1e-9) * step).toPrecision(6))
}

/** Round values above one and below another, that other last; none so near to it that it would be no step. */
export function roundLevels(from: number, to: number, step = roundStep(to)): number[] {
  const levels: number[] = []
  for (let i = Math.floor(from / step + 1e-9) + 1; i * step < to - 0.3 * step; i++)
    levels.push(Number((i * step).toPrecision(6)))
  return [...levels, to]
}

function ladderTo({ design, full }: Goal, hold: number, shares?: readonly number[]): WrittenRung[] {
  const step = roundStep(design.value)
  const rung = (value: number, seconds: number): WrittenRung => ({
    target: { value, unit: design.unit },
    hold: { value: seconds, unit: 's' },
  })
  const beyond = full.value > 1.001 * design.value ? [0, ...roundLevels(design.value, full.value, step)] : []
  const first = shares?.map(share => Number((share * full.value).toPrecision(6))) ?? roundLevels(0, design.value, step)
  const values = [0, ...first, ...beyond]
  return [...values.map(v => rung(v, hold)), rung(0, Math.max(hold, 60))]
}

function firstKnown(
  family: string,
  goal: Quantity | null,
  length: QuantityInput | null,
  { limits = [], facts = [] }: PlannedFrom,
): FirstKnown {
  return {
    goal,
    length,
    asked: Object.fromEntries(limits.map(l => [l.quantity, l.value])),
    facts: Object.fromEntries(
      knownFactsOf(family).flatMap(k => (q => (q === null ? [] : [[k.key, anySi(q)]]))(enteredOf(facts, k))),
    ),
  }
}

/** Of a plan's own numbers those that go with how far it is to go. */
function ofGoal(family: string, goal: Quantity, o: PlannedFrom): Record<string, unknown> {
  const first = (to: Quantity | null) => planningOf(family).first?.(firstKnown(family, to, null, o)) ?? {}
  const without = first(null)
  return Object.fromEntries(Object.entries(first(goal)).filter(([key]) => !(key in without)))
}

const commandedBy = (kind: LoadingKind, settings: object): Commanded =>
  loadings[kind].commanded(loadings[kind].settings.parse(settings))

const rounded = (si: number, kind: Kind, unit: string): Quantity => ({
  value: Number(inUnit(si, kind, unit).toPrecision(4)),
  unit,
})

function planOn(family: string, kind: LoadingKind, o: PlannedFrom): FirstPlan {
  const planning = planningOf(family)
  const length = (o.properties?.['length'] as QuantityInput | undefined) ?? null
  const start = structuredClone({ ...loadings[kind].start, ...planning.begins?.[kind]?.settings }) as object
  const settings = kind === 'points' && length !== null ? { ...start, loads: [{ x: length, share: 1 }] } : start
  const commanded = commandedBy(kind, settings)
  const goal = goalOf(family, kind, commanded, o)
  const { hold = loadings[kind].usual.hold ?? 20, shares } = planning.begins?.[kind] ?? {}
  return {
    loading: { kind, ...settings },
    rungs: ladderTo(goal, hold, shares ?? (goal.isUsual ? loadings[kind].usual.shares : undefined)),
    ramp: { value: 12, unit: 's' },
    rate: { value: loadings[kind].usual.rate ?? 10, unit: 'Hz' },
    ...planning.first?.(firstKnown(family, goal.isUsual ? null : goal.design, length, o)),
    ...(goal.from ? { designFrom: goal.from } : {}),
    examples: [...(loadings[kind].isExample ? ['loading'] : []), ...(goal.isUsual ? ['rungs'] : [])],
    channels: firstChannels(planning, commanded).map(({ role, label, kind }) => ({
      role,
      label,
      kind,
      type: channelKinds.find(k => k.kind === kind)?.id ?? '',
      sensorId: null,
    })),
  }
}

/** Everything as it was planned last but the ladder, where limits ask for another load than that. */
function planAfter(family: string, last: NonNullable<PlannedFrom['last']>, o: PlannedFrom): FirstPlan | null {
  const read = planSchemaOf(family).safeParse(planWithFacts(family, last.plan, last.facts).plan)
  if (!read.success) return null
  const { rungs, commanded, loading } = read.data
  const goal = goalOf(family, loading.kind, commanded, o)
  const highest = rungs[topOf(rungs)]!.target
  const asked = fromUnit(goal.full.value, commanded.kind, goal.full.unit)
  const isAsAsked = goal.isUsual || Math.abs(highest - asked) <= 0.001 * asked
  const { designFrom: _, ...said } = structuredClone(planWithoutFacts(family, last.plan, last.facts)) as FirstPlan
  if (isAsAsked) return { ...said, examples: said.examples ?? [] } as FirstPlan
  const hold = rungs.find(r => r.target > 0)?.hold ?? 20
  return {
    ...said,
    rungs: ladderTo(goal, hold),
    ...ofGoal(family, goal.design, o),
    ...(goal.from ? { designFrom: goal.from } : {}),
    examples: (said.examples ?? []).filter(e => e !== 'rungs'),
  } as FirstPlan
}
