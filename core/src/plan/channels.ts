import * as z from 'zod'
import { HypometError, isHypometError } from '../error'
import { dimensionOf } from '../expression/dimensions'
import type { Dimension } from '../quantity/dimension'
import { evaluator } from '../expression/evaluate'
import { namesIn, parse } from '../expression/parse'
import { findUnit, siUnit, siUnitOf, sameDimension, type Kind } from '../quantity/index'
import { KINDS } from '../quantity/kinds'
import { issue, plain, quantity, type QuantityInput } from '../method/settings'
import { combine } from '../uncertainty/coverage'
import { rangeState, sensorBudget, type RangeState, type SensorSpecification } from '../uncertainty/sensor'
import { stop, warn, type Finding } from './finding'
import type { LadderRung } from './ladder'
import { percent } from './percent'

/** How fast a channel is recorded: as the plan says, or a class of its own. Hz. */
export const RATE_CLASSES = { plan: null, slow: 1, vibration: 5000, impact: 20_000, burst: 100_000 } as const
export type RateClass = keyof typeof RATE_CLASSES

export const channelSchema = z
  .object({
    role: z.string().regex(/^[a-zA-Z][a-zA-Z0-9_]*$/, 'A role is a short word of letters and digits.'),
    label: z.string().min(1, 'A channel needs a name.'),
    kind: z.enum(Object.keys(KINDS) as [Kind, ...Kind[]]),
    /** Of the catalogue. */
    type: z.string().optional(),
    /** Along the span, m, and in words. */
    x: quantity('length', { title: 'Place', min: 0 }).optional(),
    /** Across it, m: two gauges at one place along the span tell its twist. */
    y: quantity('length', { title: 'Across' }).optional(),
    place: z.string().default(''),
    /** Largest reading expected where no calculation gives one. */
    expected: z.custom<QuantityInput>().optional(),
    /** What a shunt or a known load must read. */
    checkValue: z.custom<QuantityInput>().optional(),
    sensorId: z.number().int().nullable().default(null),
    /** Hz, where no class says it. */
    rate: plain({ title: 'Rate, Hz', min: 1e-4, max: 1e7 }).optional(),
    rateClass: z.enum(Object.keys(RATE_CLASSES) as [RateClass, ...RateClass[]]).default('plan'),
    /** Role of the channel that ought to read the same. */
    twin: z.string().optional(),
    /** Taken off the article after this rung, as the page counts them, so that it is not lost with it. */
    offAfter: plain({ title: 'Off after rung', whole: true, min: 2, max: 10_000 }).optional(),
    /** Derived from other channels; such a one has no sensor. */
    expression: z.string().optional(),
    cost: plain({ title: 'Cost', min: 0 }).optional(),
  })
  .transform(quantitiesToSi)

export type PlanChannel = z.output<typeof channelSchema>

/** Expected and check readings are of the channel's own kind. */
function quantitiesToSi<
  C extends { kind: Kind; expected?: QuantityInput | undefined; checkValue?: QuantityInput | undefined },
>(c: C, ctx: z.core.$RefinementCtx): Omit<C, 'expected' | 'checkValue'> & { expected?: number; checkValue?: number } {
  const { expected, checkValue, ...rest } = c
  const read = (q: QuantityInput | undefined, path: string): number | undefined => {
    if (q === undefined || q === null) return undefined
    const parsed = quantity(c.kind).safeParse(q)
    return parsed.success ? parsed.data : issue(ctx, 'unit-dimension', parsed.error.issues[0]!.message, [path])
  }
  const [e, v] = [read(expected, 'expected'), read(checkValue, 'checkValue')]
  return { ...rest, ...(e === undefined ? {} : { expected: e }), ...(v === undefined ? {} : { checkValue: v }) }
}

export interface ChannelView {
  role: string
  label: string
  kind: Kind
  type: string | undefined
  place: string
  /** Along the span and across it, m. */
  x?: number
  y?: number
  sensorId: number | null
  /** Largest reading expected; null where neither a calculation nor a person says one. */
  expectedPeak: number | null
  fullScale: number | null
  utilisation: number | null
  state: RangeState | 'no-sensor' | 'derived' | 'not-expected'
  /** Expanded uncertainty of a single reading at the expected peak. */
  U: number | null
  checkValue: number | null
  /** Hz */
  rate: number
  expression: string | null
  /** Role of the channel that ought to read the same. */
  twin?: string
}

/** Views of the channels that are read, then of those that are derived from them. */
export function channelViews(
  channels: readonly PlanChannel[],
  expectedOf: (c: PlanChannel) => number | null,
  sensors: Readonly<Record<number, SensorSpecification>>,
  planRate: number,
): ChannelView[] {
  const read = new Map(channels.filter(c => !c.expression).map(c => [c.role, c.expected ?? expectedOf(c)]))
  const rates = new Map(channels.map(c => [c.role, c.rate ?? RATE_CLASSES[c.rateClass] ?? planRate]))
  return channels.map(c => {
    const expectedPeak = c.expression ? derivedPeak(c.expression, read) : (read.get(c.role) ?? null)
    const base = {
      role: c.role,
      label: c.label,
      kind: c.kind,
      type: c.type,
      place: c.place,
      ...(c.x === undefined ? {} : { x: c.x }),
      ...(c.y === undefined ? {} : { y: c.y }),
      sensorId: c.sensorId,
      expectedPeak,
      checkValue: c.checkValue ?? null,
      rate: c.expression ? fastest(c.expression, rates, planRate) : rates.get(c.role)!,
      expression: c.expression ?? null,
      ...(c.twin === undefined ? {} : { twin: c.twin }),
    }
    const none = { fullScale: null, utilisation: null, U: null }
    if (c.expression) return { ...base, ...none, state: 'derived' }
    const sensor = c.sensorId === null ? undefined : sensors[c.sensorId]
    if (!sensor) return { ...base, ...none, state: 'no-sensor' }
    const { u, k } = combine(sensorBudget(sensor, expectedPeak ?? sensor.fullScale))
    const U = u > 0 ? k * u : null
    return expectedPeak === null
      ? { ...base, fullScale: sensor.fullScale, utilisation: null, U, state: 'not-expected' }
      : { ...base, fullScale: sensor.fullScale, ...rangeState(expectedPeak, sensor.fullScale), U }
  })
}

/** Hz; a derived channel has the clock of the fastest that it reads. */
function fastest(text: string, rates: ReadonlyMap<string, number>, planRate: number): number {
  try {
    return Math.max(...namesIn(parse(text)).map(n => rates.get(n) ?? 0)) || planRate
  } catch (e) {
    if (!isHypometError(e)) throw e
    return planRate
  }
}

/** Of an expression at the peaks of its channels; what looks along the record has none. */
function derivedPeak(text: string, peaks: ReadonlyMap<string, number | null>): number | null {
  try {
    const tree = parse(text)
    const names = namesIn(tree)
    if (names.some(n => peaks.get(n) == null) || /\b(deriv|integ|lowpass)\s*\(/.test(text)) return null
    const value = evaluator(tree, names)(names.map(n => peaks.get(n)!))
    return Number.isFinite(value) ? value : null
  } catch (e) {
    if (!isHypometError(e)) throw e
    return null
  }
}

/** What is wrong with the channels as they stand: names, twins, expressions, sensors. */
export function channelFindings(
  channels: readonly PlanChannel[],
  views: readonly ChannelView[],
  needed: readonly { role: string; label: string }[],
  rungs: readonly LadderRung[] = [],
): Finding[] {
  const list: Finding[] = []
  const names = indexOf(channels)
  const holders = firstBy(channels, c => c.sensorId)
  for (const n of needed)
    if (!names.byRole.has(n.role))
      list.push(
        stop(
          'missing-channel',
          'channels',
          `The channel “${n.role}” (${n.label.toLowerCase()}) is needed.`,
          'Add it from the catalogue.',
        ),
      )
  channels.forEach((c, i) => {
    if (c.offAfter !== undefined) list.push(...offFindings(c, c.offAfter, i, rungs))
    if (names.firstOf(c.role) < i)
      list.push(
        stop(
          'channel-twice',
          `channels.${i}.role`,
          `Two channels are called “${c.role}”.`,
          'Give one of them another name.',
        ),
      )
    const holder = c.sensorId === null ? i : holders.get(c.sensorId)!
    if (holder < i)
      list.push(
        stop(
          'sensor-twice',
          `channels.${i}.sensorId`,
          `${c.label} and ${channels[holder]!.label} are read by one and the same sensor.`,
          'Choose another sensor for one of them.',
        ),
      )
    if (c.twin !== undefined) list.push(...twinFindings(c, i, names))
    if (c.expression !== undefined) list.push(...expressionFindings(c, i, names))
    if (views[i]?.state === 'over-range')
      list.push(
        stop(
          'over-range',
          `channels.${i}.sensorId`,
          `${c.label} is expected to reach ${percent(views[i].utilisation!)} of its sensor’s full scale: it will clip.`,
          'Choose a larger sensor, or end the ladder lower.',
        ),
      )
  })
  return list
}

/** A channel that comes off in the middle of the ladder: somebody goes there, so it waits. */
function offFindings(c: PlanChannel, after: number, i: number, rungs: readonly LadderRung[]): Finding[] {
  const path = `channels.${i}.offAfter`
  const at = rungs.find(r => r.source === after - 1)
  if (!at || after >= Math.max(...rungs.map(r => r.source)) + 1)
    return [
      warn(
        'off-at-the-end',
        path,
        `${c.label} is to come off after rung ${after}; the ladder ends there or before.`,
        'Name a rung that others follow.',
      ),
    ]
  return at.decision
    ? []
    : [
        warn(
          'off-without-look',
          path,
          `${c.label} comes off after rung ${after}, and the ladder does not wait there.`,
          `Tick “Inspect before the next rung” at rung ${after}: nobody takes a gauge off a load that grows.`,
        ),
      ]
}

/** Where else a sensor is planned, and when. */
export interface SensorPlanned {
  testId: number
  title: string
  plannedOn: string | null
}

/** A sensor that another test has on the same day cannot be here as well. */
export function sensorClashes(
  channels: readonly { sensorId: number | null }[],
  here: { testId: number; plannedOn: string | null },
  uses: Readonly<Record<number, readonly SensorPlanned[]>>,
  nameOf: (id: number) => string,
): Finding[] {
  return channels.flatMap((c, i) =>
    c.sensorId === null || here.plannedOn === null
      ? []
      : (uses[c.sensorId] ?? [])
          .filter(u => u.testId !== here.testId && u.plannedOn === here.plannedOn)
          .map(u =>
            stop(
              'sensor-elsewhere',
              `channels.${i}.sensorId`,
              `${nameOf(c.sensorId!)} is on “${u.title}” the same day, ${u.plannedOn}.`,
              'Choose another sensor, or another day.',
            ),
          ),
  )
}

interface Index {
  byRole: ReadonlyMap<string, PlanChannel>
  firstOf(role: string): number
  /** Dimensions of those that are read. */
  dimensions: Readonly<Record<string, Dimension>>
}

/** Once over thousands of channels. */
function indexOf(channels: readonly PlanChannel[]): Index {
  const first = firstBy(channels, c => c.role)
  return {
    byRole: new Map([...first].map(([role, i]) => [role, channels[i]!])),
    firstOf: role => first.get(role)!,
    dimensions: Object.fromEntries(
      channels.flatMap(c => (c.expression ? [] : [[c.role, findUnit(siUnit(c.kind))!.dimension]])),
    ),
  }
}

function firstBy<K>(channels: readonly PlanChannel[], keyOf: (c: PlanChannel) => K): Map<K, number> {
  const first = new Map<K, number>()
  channels.forEach((c, i) => {
    const key = keyOf(c)
    if (!first.has(key)) first.set(key, i)
  })
  return first
}

function twinFindings(c: PlanChannel, i: number, { byRole }: Index): Finding[] {
  const twin = byRole.get(c.twin!)
  const path = `channels.${i}.twin`
  if (!twin || twin === c)
    return [
      warn(
        'twin-unknown',
        path,
        `${c.label} ought to agree with “${c.twin}”, which is not there.`,
        'Choose one of the other channels.',
      ),
    ]
  return twin.kind === c.kind
    ? []
    : [
        warn(
          'twin-kind',
          path,
          `${c.label} and ${twin.label} measure different things.`,
          'Redundant channels measure the same quantity.',
        ),
      ]
}

/** Its names are there, it ends nowhere in itself, and its unit is what the channel says. */
function expressionFindings(c: PlanChannel, i: number, { dimensions }: Index): Finding[] {
  const path = `channels.${i}.expression`
  try {
    const tree = parse(c.expression!)
    const missing = namesIn(tree).filter(n => !Object.hasOwn(dimensions, n))
    if (missing.length > 0) throw new HypometError('unknown-channel', `“${missing[0]}” is not a channel that is read.`)
    const dimension = dimensionOf(tree, dimensions)
    return sameDimension(dimension, KINDS[c.kind].dimension)
      ? []
      : [
          stop(
            'unit-dimension',
            path,
            `“${c.expression}” is in ${siUnitOf(dimension)}; ${c.label} is to be in ${siUnit(c.kind)}.`,
            'Change the expression or what the channel measures.',
          ),
        ]
  } catch (e) {
    if (!isHypometError(e)) throw e
    return [stop(e.code, path, e.message, 'Use the short names of channels that are read, as in (a + b) / 2.')]
  }
}
