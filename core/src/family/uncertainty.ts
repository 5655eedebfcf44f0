import { isHypometError } from '../error'
import type { Reduction } from '../method/reduction'
import type { ReduceContext, Table } from '../method/table'
import { calmed, noiseOf, withNoise, type Noise } from '../signal/noise'
import { largestSize } from '../signal/rising'
import { meanSd } from '../statistics/mean'
import { SeededRandom } from '../statistics/random'
import { combine, type Contribution } from '../uncertainty/coverage'
import { sensorBudget, type SensorSpecification } from '../uncertainty/sensor'
import type { AnyFamily, ResultScatter } from './contract'

/** Records drawn with more noise; of long ones fewer, for each is a reduction. */
const [MOST_DRAWS, FEWEST_DRAWS, SAMPLES] = [48, 8, 4e6]
/** Noise that hangs together by less is taken as white: it can be averaged away. */
const WHITE = 0.3
/** Readings in a row that a calmer record is the mean of. */
const CALM = 5
/**
 * Records are drawn about the calmer one, which keeps a fifth of its variance at most: they show what one noise does to
 * this shape. Where noise cannot be told from the shape it stays, and is made twice as loud by three times its
 * variance. A bias that goes with the noise follows from what the result moves by on the way; slow noise is told a
 * little low.
 */
const AROUND_CALM = { added: 1, perBias: 1 / (Math.sqrt(1 + 1 / CALM) - Math.sqrt(1 / CALM)) }
const LOUDER = { added: Math.sqrt(3), perBias: 1 }
const SLOW_IS_LOW = 1.2
/** Draws that show how well the calmer record itself tells a result, where bias is what counts. */
const CALM_DRAWS = 16
/** Slow noise is taken off a record that is straight in at least this share of it. */
const MOSTLY = 0.6
/** A shift is one from so many of its own standard deviations on. */
const CLEAR = 2.5
/** What only some draws have scatters as those do; of fewer than that nothing can be told. */
const FEWEST_VALUES = 4
/** Contributions below this of the value are none. */
const NOTHING = 1e-12

type Reduce = (table: Table) => Reduction | null

/**
 * Uncertainties of a reduction's results: of its sensors, each moved by what its certificate and data sheet leave open;
 * and of the scatter that the record shows, by records drawn with it. What a result moves by systematically with noise
 * is the bias that noise has already given it — a maximum is too large, a slope over noisy places too low: its interval
 * is widened by that, for the definition of the result stays.
 *
 * @source JCGM 100:2008, 5.1.3 and F.2.4.5; JCGM 101:2008, 7
 */
export function withUncertainty(
  family: AnyFamily,
  table: Table,
  settings: unknown,
  context: ReduceContext,
  reduction: Reduction,
): Reduction {
  const reduce: Reduce = moved => {
    try {
      return family.reduce(withSet(family, table, moved), settings, { sensors: {}, resultsOnly: true })
    } catch (e) {
      // A record that is moved may have no event any more, or pass the end of its gauge.
      if (isHypometError(e)) return null
      throw e
    }
  }
  const sensors = Object.entries(context.sensors).filter(
    ([role]) => table.channels[role] && largestSize(table.channels[role]) > 0,
  )
  if (sensors.length === 0) return reduction
  const { doubt = {} } = family
  const repeated = table.t.length === 0 ? (doubt.noise?.(table, settings) ?? {}) : {}
  const noises = Object.fromEntries(sensors.map(([role, s]) => [role, repeated[role] ?? scatterOf(table, role, s)]))
  const systematic = sensors.flatMap(([role, s], i) => {
    const roles = columnsOf(role, doubt.together ?? [], table, context)
    // What one sensor reads in several columns is moved at once, with the first of them.
    if (sensors.findIndex(([r]) => roles.includes(r)) < i) return []
    return systematicParts(table, roles, s, noises[role]!, reduction, reduce)
  })
  const own = ownScatter(doubt.scatter?.(table, settings, reduction) ?? {})
  // Records are drawn for what nothing else tells the scatter of.
  const isDrawn = Object.entries(reduction.results).some(
    ([key, { value, u }]) => value !== null && !own[key] && !(family.addsToUncertainty && u !== undefined),
  )
  const drawn = family.isNoise || !isDrawn ? {} : scatterParts(table, noises, reduction, reduce)
  const scatter: Record<string, Drawn> = { ...drawn, ...own }
  return {
    ...reduction,
    results: Object.fromEntries(
      Object.entries(reduction.results).map(([key, result]) => {
        if (result.value === null) return [key, result]
        // What brings an uncertainty brings it for its gauge, or for its fit to scattered readings: not twice.
        const name = family.addsToUncertainty ? 'fit' : 'gauge'
        const own = result.u === undefined ? [] : [{ name, contribution: result.u, dof: Infinity }]
        const ofSensors = own.length > 0 && !family.addsToUncertainty ? [] : systematic.flatMap(p => p[key] ?? [])
        const isOfFit = own.length > 0 && family.addsToUncertainty && !scatter[key]?.isOwn
        const drawn = isOfFit ? null : (scatter[key] ?? null)
        const parts = [...own, ...ofSensors, ...(drawn ? [drawn.part] : [])].filter(
          c => c.contribution > NOTHING * Math.abs(result.value!),
        )
        if (parts.length === 0) return [key, result]
        const { u, k } = combine(parts)
        const wide = u + (drawn ? drawn.bias / k : 0)
        return [
          key,
          Number.isFinite(wide) ? { ...result, u: wide, k, parts: partsOf(parts, drawn?.bias ?? 0, k) } : result,
        ]
      }),
    ),
  }
}

/** The columns that the sensor of one reads: with it those that go together, but for one with a sensor of its own. */
function columnsOf(role: string, together: readonly string[], table: Table, { sensors }: ReduceContext): string[] {
  if (!together.includes(role)) return [role]
  const isSame = (r: string) => !sensors[r] || JSON.stringify(sensors[r]) === JSON.stringify(sensors[role])
  return together.filter(r => table.channels[r] && isSame(r))
}

/** A moved record with what was set, not read, as it was. */
function withSet({ doubt }: AnyFamily, table: Table, moved: Table): Table {
  if (!doubt?.isSet) return moved
  const kept = Object.entries(moved.channels).map(([role, y]) => {
    const was = table.channels[role]!
    return [role, y === was ? y : y.map((v, i) => (doubt.isSet!(role, was[i]!) ? was[i]! : v))] as const
  })
  return { ...moved, channels: Object.fromEntries(kept) }
}

const ownScatter = (own: Record<string, ResultScatter>): Record<string, Drawn> =>
  Object.fromEntries(
    Object.entries(own).map(([key, { u, dof, bias = 0 }]) => [
      key,
      { part: { name: 'scatter', contribution: u, dof }, bias, isOwn: true },
    ]),
  )

/** The parts of an uncertainty, largest first, as standard uncertainties. */
const partsOf = (parts: readonly Contribution[], bias: number, k: number): { name: string; u: number }[] =>
  [
    ...parts.map(p => ({ name: p.name, u: p.contribution })),
    ...(bias > 0 ? [{ name: 'bias of noise', u: bias / k }] : []),
  ].sort((a, b) => b.u - a.u)

/** What the record shows; of a few rows without a clock what the data sheet says of one reading. */
function scatterOf(table: Table, role: string, sensor: SensorSpecification): Noise {
  if (table.t.length > 0) return noiseOf(table.channels[role]!)
  const { repeatability, step } = itemsOf(sensor, 0)
  return { sigma: Math.hypot(repeatability, step), phi: 0 }
}

function itemsOf(sensor: SensorSpecification, most: number) {
  const of = Object.fromEntries(sensorBudget(sensor, most).map(c => [c.name, c.contribution]))
  const item = (name: string) => of[name] ?? 0
  return {
    certificate: item('certificate'),
    linearity: item('linearity'),
    repeatability: item('repeatability'),
    drift: Math.hypot(item('hysteresis'), item('repeatability'), item('temperatureZero')),
    span: item('temperatureSpan'),
    step: Math.hypot(item('resolution'), item('converter')),
  }
}

/**
 * What each result moves by when a channel is read with an error of one kind: a zero that is off, a gain that is off, a
 * bow, a drift from the record's beginning to its end. A certificate holds at every reading: half of its variance is
 * zero, half is gain.
 */
function systematicParts(
  table: Table,
  roles: readonly string[],
  sensor: SensorSpecification,
  { sigma }: Noise,
  reduction: Reduction,
  reduce: Reduce,
): Record<string, Contribution[]>[] {
  const most = Math.max(...roles.map(r => largestSize(table.channels[r]!)))
  const { certificate, linearity, drift, span, step } = itemsOf(sensor, most)
  // Steps that scatter covers are part of it.
  const coarse = sigma < step ? step : 0
  const half = certificate / Math.SQRT2
  const gain = Math.hypot(half, drift, span) / most
  const last = table.channels[roles[0]!]!.length - 1
  const shapes: [name: string, size: number, at: (v: number, i: number) => number][] = [
    ['zero', Math.hypot(half, coarse), () => 1],
    ['gain', gain, v => v],
    ['linearity', linearity, v => Math.sin((Math.PI * v) / sensor.fullScale)],
    ['drift', Math.hypot(drift, coarse) / Math.SQRT2, (_, i) => (last > 0 ? (2 * i) / last - 1 : 1)],
  ]
  return shapes.flatMap(([name, size, at]) => {
    if (!(size > 0)) return []
    const movedBy = (by: number) => {
      const channels = roles.map(r => [r, table.channels[r]!.map((v, i) => v + by * at(v, i))] as const)
      return reduce({ ...table, channels: { ...table.channels, ...Object.fromEntries(channels) } })?.results ?? {}
    }
    const had = Object.entries(reduction.results).filter(([, { value }]) => typeof value === 'number')
    const up = movedBy(size)
    // What a record moved one way does not reach any more, it may reach moved the other way.
    const down = had.every(([key]) => typeof up[key]?.value === 'number') ? {} : movedBy(-size)
    return [
      Object.fromEntries(
        had.flatMap(([key, { value }]) => {
          const other = up[key]?.value ?? down[key]?.value
          return typeof other === 'number'
            ? [[key, [{ name: `${roles.join(', ')}: ${name}`, contribution: Math.abs(other - value!), dof: Infinity }]]]
            : []
        }),
      ),
    ]
  })
}

interface Drawn {
  part: Contribution
  bias: number
  /** The family worked it out: it comes on top of what it brings besides. */
  isOwn?: boolean
}

function scatterParts(
  table: Table,
  noises: Record<string, Noise>,
  reduction: Reduction,
  reduce: Reduce,
): Record<string, Drawn> {
  const noisy = Object.entries(noises).filter(([, n]) => n.sigma > 0)
  if (noisy.length === 0) return {}
  const length = table.channels[noisy[0]![0]]!.length
  const draws = Math.max(FEWEST_DRAWS, Math.min(MOST_DRAWS, Math.round(SAMPLES / (length * noisy.length))))
  const { base, isCalm } = withoutNoise(table, noisy)
  const middle = isCalm ? reduce(base)?.results : reduction.results
  if (!middle) return {}
  const { added, perBias } = isCalm ? AROUND_CALM : LOUDER
  const random = new SeededRandom(1)
  const draw = (times: number) => withChannels(base, noisy, (y, noise) => withNoise(y, noise, times, random))
  const drawn = valuesOf(Array.from({ length: draws }, () => reduce(draw(added))))
  const scatter: Record<string, { from: number; mean: number; sd: number; n: number; isBias: boolean }> = {}
  for (const key of Object.keys(reduction.results)) {
    const [values, from] = [drawn[key] ?? [], middle[key]?.value]
    if (typeof from !== 'number' || values.length < FEWEST_VALUES) continue
    const { mean, sd } = meanSd(values)
    const isBias = Math.abs(mean - from) > (CLEAR * sd) / Math.sqrt(values.length)
    scatter[key] = { from, mean, sd, n: values.length, isBias }
  }
  const needsCalm = isCalm && Object.values(scatter).some(s => s.isBias && Math.abs(s.mean - s.from) > s.sd)
  const again = needsCalm
    ? valuesOf(Array.from({ length: Math.min(draws, CALM_DRAWS) }, () => reduce(withoutNoise(draw(added), noisy).base)))
    : {}
  const fewest = Math.min(...noisy.map(([, n]) => n.dof ?? Infinity))
  const slow = noisy.some(([, n]) => n.phi >= WHITE) ? SLOW_IS_LOW : 1
  return Object.fromEntries(
    Object.entries(scatter).map(([key, { from, mean, sd, n, isBias }]): [string, Drawn] => {
      const calm = isBias && (again[key]?.length ?? 0) >= FEWEST_VALUES ? meanSd(again[key]!).sd : 0
      const part = { name: 'scatter', contribution: Math.hypot(sd / added, calm), dof: Math.min(n - 1, fewest) }
      return [key, { part, bias: isBias ? slow * perBias * Math.abs(mean - from) : 0 }]
    }),
  )
}

const valuesOf = (reductions: readonly (Reduction | null)[]): Record<string, number[]> => {
  const values: Record<string, number[]> = {}
  for (const reduction of reductions)
    for (const [key, { value }] of Object.entries(reduction?.results ?? {}))
      if (typeof value === 'number') (values[key] ??= []).push(value)
  return values
}

type Noisy = [role: string, noise: Noise][]

/** The record with most of its noise taken off; itself where what hangs together cannot be told from its shape. */
function withoutNoise(table: Table, noisy: Noisy): { base: Table; isCalm: boolean } {
  if (table.t.length === 0) return { base: table, isCalm: false }
  const isWhite = noisy.every(([, n]) => n.phi < WHITE)
  const calmer = noisy.map(([role, n]) => [role, calmed(table.channels[role]!, n, isWhite ? CALM : 1)] as const)
  if (!isWhite && calmer.some(([, { share }]) => share < MOSTLY)) return { base: table, isCalm: false }
  const channels = { ...table.channels, ...Object.fromEntries(calmer.map(([role, { y }]) => [role, y])) }
  return { base: { ...table, channels }, isCalm: true }
}

const withChannels = (table: Table, noisy: Noisy, moved: (y: Float64Array, noise: Noise) => Float64Array): Table => ({
  ...table,
  channels: {
    ...table.channels,
    ...Object.fromEntries(noisy.map(([role, noise]) => [role, moved(table.channels[role]!, noise)])),
  },
})
