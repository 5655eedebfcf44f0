import { isHypometError } from '../error'
import type { Reduction } from '../method/reduction'
import type { ReduceContext, Table } from '../method/table'
import { noiseOf, runningMean, withNoise, type Noise } from '../signal/noise'
import { largestSize } from '../signal/rising'
import { meanSd } from '../statistics/mean'
import { SeededRandom } from '../statistics/random'
import { combine, type Contribution } from '../uncertainty/coverage'
import { sensorBudget, type SensorSpecification } from '../uncertainty/sensor'
import type { AnyFamily } from './contract'

/** Records drawn with more noise; of long ones fewer, for each is a reduction. */
const [MOST_DRAWS, FEWEST_DRAWS, SAMPLES] = [48, 8, 4e6]
/** Noise that hangs together by less is taken as white: it can be averaged away. */
const WHITE = 0.3
/** Readings in a row that a calmer record is the mean of. */
const CALM = 5
/**
 * Of white noise records are drawn about the calmer one, which keeps a fifth of its variance: they show what one noise
 * does to this shape. What hangs together stays, and is made twice as loud by three times its variance. A bias that
 * goes with the noise follows from what the result moves by on the way; slow noise is told a little low.
 */
const AROUND_CALM = { added: 1, perBias: 1 / (Math.sqrt(1 + 1 / CALM) - Math.sqrt(1 / CALM)) }
const LOUDER = { added: Math.sqrt(3), perBias: 1.2 }
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
      return family.reduce(moved, settings, { sensors: {} })
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
  const noises = Object.fromEntries(sensors.map(([role, s]) => [role, scatterOf(table, role, s)]))
  const systematic = sensors.flatMap(([role, s]) => systematicParts(table, role, s, noises[role]!, reduction, reduce))
  const scatter = family.isNoise ? {} : scatterParts(table, noises, reduction, reduce)
  return {
    ...reduction,
    results: Object.fromEntries(
      Object.entries(reduction.results).map(([key, result]) => {
        if (result.value === null) return [key, result]
        // What brings an uncertainty brings it for its gauge, or for its fit to scattered readings: not twice.
        const name = family.addsToUncertainty ? 'fit' : 'gauge'
        const own = result.u === undefined ? [] : [{ name, contribution: result.u, dof: Infinity }]
        const ofSensors = own.length > 0 && !family.addsToUncertainty ? [] : systematic.flatMap(p => p[key] ?? [])
        const drawn = own.length > 0 && family.addsToUncertainty ? null : (scatter[key] ?? null)
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
  role: string,
  sensor: SensorSpecification,
  { sigma }: Noise,
  reduction: Reduction,
  reduce: Reduce,
): Record<string, Contribution[]>[] {
  const y = table.channels[role]!
  const most = largestSize(y)
  const { certificate, linearity, drift, span, step } = itemsOf(sensor, most)
  // Steps that scatter covers are part of it.
  const coarse = sigma < step ? step : 0
  const half = certificate / Math.SQRT2
  const gain = Math.hypot(half, drift, span) / most
  const last = y.length - 1
  const shapes: [name: string, size: number, at: (v: number, i: number) => number][] = [
    ['zero', Math.hypot(half, coarse), () => 1],
    ['gain', gain, v => v],
    ['linearity', linearity, v => Math.sin((Math.PI * v) / sensor.fullScale)],
    ['drift', Math.hypot(drift, coarse) / Math.SQRT2, (_, i) => (last > 0 ? (2 * i) / last - 1 : 1)],
  ]
  return shapes.flatMap(([name, size, at]) => {
    if (!(size > 0)) return []
    const channels = { ...table.channels, [role]: y.map((v, i) => v + size * at(v, i)) }
    const moved = reduce({ ...table, channels })
    if (!moved) return []
    return [
      Object.fromEntries(
        Object.entries(reduction.results).flatMap(([key, { value }]) => {
          const other = moved.results[key]?.value
          return typeof value === 'number' && typeof other === 'number'
            ? [[key, [{ name: `${role}: ${name}`, contribution: Math.abs(other - value), dof: Infinity }]]]
            : []
        }),
      ),
    ]
  })
}

interface Drawn {
  part: Contribution
  bias: number
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
  const isWhite = table.t.length > 0 && noisy.every(([, n]) => n.phi < WHITE)
  const base = isWhite ? withChannels(table, noisy, y => runningMean(y, CALM)) : table
  const middle = isWhite ? reduce(base)?.results : reduction.results
  if (!middle) return {}
  const { added, perBias } = isWhite ? AROUND_CALM : LOUDER
  const random = new SeededRandom(1)
  const drawn: Record<string, number[]> = {}
  for (let i = 0; i < draws; i++) {
    const moved = reduce(withChannels(base, noisy, (y, noise) => withNoise(y, noise, added, random)))
    for (const [key, { value }] of Object.entries(moved?.results ?? {}))
      if (typeof value === 'number') (drawn[key] ??= []).push(value)
  }
  return Object.fromEntries(
    Object.keys(reduction.results).flatMap((key): [string, Drawn][] => {
      const [values, from] = [drawn[key] ?? [], middle[key]?.value]
      if (typeof from !== 'number' || values.length < FEWEST_VALUES) return []
      const { mean, sd } = meanSd(values)
      const shift = Math.abs(mean - from)
      const isBias = shift > (CLEAR * sd) / Math.sqrt(values.length)
      const part = { name: 'scatter', contribution: sd / added, dof: values.length - 1 }
      return [[key, { part, bias: isBias ? perBias * shift : 0 }]]
    }),
  )
}

type Noisy = [role: string, noise: Noise][]

const withChannels = (table: Table, noisy: Noisy, moved: (y: Float64Array, noise: Noise) => Float64Array): Table => ({
  ...table,
  channels: {
    ...table.channels,
    ...Object.fromEntries(noisy.map(([role, noise]) => [role, moved(table.channels[role]!, noise)])),
  },
})
