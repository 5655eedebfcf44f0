import { HypometError, isHypometError } from '../../error'
import { exact } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { fallTo } from '../../signal/fall'
import { indexOfMax } from '../../signal/rising'
import { median as medianOf } from '../../statistics/quantile'
import { admittance, fitCircuit, type FittedCircuit } from './circuit'
import { explanations } from './explanations'
import type { TransducerSettings } from './settings'
import { responses } from './responses'

/** Rows that tell the capacitance: up to ten times the lowest frequency, and well below the resonance. */
const [DECADE, BELOW, FEWEST] = [10, 0.7, 5]

/**
 * Impedance sweep: resonances from conductance and resistance, coupling, quality, capacitance, and the equivalent
 * circuit.
 *
 * @param table  frequency [Hz] and magnitude [ohm] with phase [rad], or resistance with reactance [ohm]
 * @throws HypometError `missing-channel`, `data-range` below five rows, `no-event` without a resonance inside the sweep
 * @source IEEE Std 176-1987, IEEE Std 177; methods.md, “transducer”
 */
export function reduceSweep({ channels }: Table, s: TransducerSettings): Reduction {
  const { frequency, R, X } = sorted(channels)
  if (frequency.length < FEWEST)
    throw new HypometError('data-range', 'A sweep needs at least five rows.', { path: 'channels.frequency' })
  if (!(frequency[0]! > 0))
    throw new HypometError('data-range', 'A frequency is above zero.', { path: 'channels.frequency' })
  const size = R.map((r, i) => r * r + X[i]! ** 2)
  const [G, B] = [R.map((r, i) => r / size[i]!), X.map((x, i) => -x / size[i]!)]
  const at = indexOfMax(G)
  if (at === 0 || at === G.length - 1)
    throw new HypometError(
      'no-event',
      'There is no resonance inside this sweep: the conductance is largest at its end. Sweep farther.',
      { path: 'channels.frequency' },
    )
  const series = vertexOf(frequency, G, at)
  const top = indexOfMax(R)
  const parallel = top > at && top < R.length - 1 ? vertexOf(frequency, R, top) : null
  const [below, above] = [
    fallTo(G, at, -1, series.height / 2, frequency),
    fallTo(G, at, 1, series.height / 2, frequency),
  ]
  const width = below === null || above === null ? null : above - below
  const quality = width === null ? null : series.at / width
  const limit = Math.min(DECADE * frequency[0]!, BELOW * series.at)
  const low = Math.max(FEWEST, frequency.findLastIndex(f => f <= limit) + 1)
  const median = (f: (i: number) => number) =>
    medianOf(Array.from({ length: Math.min(low, frequency.length) }, (_, i) => f(i)))
  const capacitance = median(i => B[i]! / (2 * Math.PI * frequency[i]!))
  const circuit = circuitOf(frequency, G, B, { series, parallel, quality, capacitance })
  const explained = s.model && circuit ? explanations(frequency, G, B, s.model) : null
  const coupling = parallel && parallel.at > series.at ? Math.sqrt(1 - (series.at / parallel.at) ** 2) : null
  const uCoupling =
    coupling && parallel
      ? ((1 - coupling ** 2) / coupling) * Math.hypot(series.u / series.at, parallel.u / parallel.at)
      : 0
  return {
    results: {
      ...responses(s),
      seriesFrequency: resolved(series.at, 'Hz', series.u),
      parallelFrequency: resolved(parallel?.at ?? null, 'Hz', parallel?.u ?? 0),
      coupling: resolved(coupling, '1', uCoupling),
      qualityFactor: exact(quality, '1'),
      staticCapacitance: exact(capacitance, 'F'),
      lossTangent: exact(
        median(i => G[i]! / B[i]!),
        '1',
      ),
      ...circuitResults(circuit),
    },
    tables: explained ? { explanations: explained } : {},
    warnings: warningsOf(parallel === null, quality === null, circuit === null),
    traces: {
      frequency,
      R,
      X,
      G,
      B,
      ...(circuit ? fittedTraces(frequency, circuit) : {}),
      ...(s.model ? modelTraces(frequency, s.model) : {}),
    },
  }
}

interface Vertex {
  at: number
  height: number
  /** Of its place: it lies between rows. */
  u: number
}

const resolved = (value: number | null, unit: string, u: number): Result =>
  value !== null && u > 0 ? { value, unit, bound: 'exact', u, k: 2 } : exact(value, unit)

function sorted(channels: Table['channels']): { frequency: Float64Array; R: Float64Array; X: Float64Array } {
  const f = channels['frequency']!
  const order = Array.from(f.keys()).sort((a, b) => f[a]! - f[b]!)
  const pick = (y: (i: number) => number) => Float64Array.from(order, y)
  const { magnitude, phase, resistance, reactance } = channels
  if (magnitude && phase)
    return {
      frequency: pick(i => f[i]!),
      R: pick(i => magnitude[i]! * Math.cos(phase[i]!)),
      X: pick(i => magnitude[i]! * Math.sin(phase[i]!)),
    }
  if (resistance && reactance)
    return { frequency: pick(i => f[i]!), R: pick(i => resistance[i]!), X: pick(i => reactance[i]!) }
  const missing = magnitude ? 'phase' : resistance ? 'reactance' : 'magnitude'
  throw new HypometError(
    'missing-channel',
    'An impedance is a magnitude with a phase, or a resistance with a reactance.',
    { path: `channels.${missing}` },
  )
}

/** Vertex of the parabola through three rows, which need not be evenly apart. */
function vertexOf(x: Float64Array, y: Float64Array, i: number): Vertex {
  const [a, b] = [x[i - 1]! - x[i]!, x[i + 1]! - x[i]!]
  const [ya, yb] = [y[i - 1]! - y[i]!, y[i + 1]! - y[i]!]
  // y = y₀ + p·d + q·d² about the middle row.
  const q = (ya / a - yb / b) / (a - b)
  const p = ya / a - q * a
  const d = q === 0 ? 0 : -p / (2 * q)
  return { at: x[i]! + d, height: y[i]! + p * d + q * d * d, u: Math.max(-a, b) / (2 * Math.sqrt(3)) }
}

function circuitOf(
  frequency: Float64Array,
  G: Float64Array,
  B: Float64Array,
  seen: { series: Vertex; parallel: Vertex | null; quality: number | null; capacitance: number },
): FittedCircuit | null {
  const ws = 2 * Math.PI * seen.series.at
  const ratio = seen.parallel ? (seen.parallel.at / seen.series.at) ** 2 - 1 : 0.05
  const R1 = 1 / seen.series.height
  const quality = seen.quality ?? 20
  // C1/C0 from the two resonances; what is far below reads both in parallel.
  const C0 = Math.abs(seen.capacitance) / (1 + Math.max(ratio, 1e-4))
  try {
    const L1 = (quality * R1) / ws
    const fit = fitCircuit(frequency, G, B, { R1, L1, C1: 1 / (ws * ws * L1), C0 })
    return [fit.R1, fit.L1, fit.C1, fit.C0].every(v => Number.isFinite(v) && v > 0) ? fit : null
  } catch (e) {
    if (isHypometError(e)) return null
    throw e
  }
}

const CIRCUIT_UNITS = { R1: 'ohm', L1: 'H', C1: 'F', C0: 'F' } as const

const circuitResults = (fit: FittedCircuit | null): Record<string, Result> =>
  Object.fromEntries(
    Object.entries(CIRCUIT_UNITS).map(([key, unit]) => {
      const k = key as keyof typeof CIRCUIT_UNITS
      return [
        k,
        fit
          ? {
              value: fit[k],
              unit,
              bound: 'exact' as const,
              ...(Number.isFinite(fit.errors[k]) ? { u: fit.errors[k], k: 2 } : {}),
            }
          : exact(null, unit),
      ]
    }),
  )

function fittedTraces(frequency: Float64Array, circuit: FittedCircuit): Record<string, Float64Array> {
  const y = Array.from(frequency, f => admittance(circuit, 2 * Math.PI * f))
  return { fittedG: Float64Array.from(y, v => v.re), fittedB: Float64Array.from(y, v => v.im) }
}

function modelTraces(
  frequency: Float64Array,
  model: NonNullable<TransducerSettings['model']>,
): Record<string, Float64Array> {
  return {
    modelSize: frequency.map(f => {
      const y = admittance(model, 2 * Math.PI * f)
      return 1 / Math.hypot(y.re, y.im)
    }),
  }
}

function warningsOf(noParallel: boolean, noWidth: boolean, noCircuit: boolean): Warning[] {
  return [
    ...(noParallel
      ? [
          {
            code: 'no-parallel',
            message: 'The parallel resonance is not inside this sweep: there is no coupling factor. Sweep farther up.',
          },
        ]
      : []),
    ...(noWidth
      ? [
          {
            code: 'no-width',
            message: 'The conductance does not fall to half on both sides of its peak: there is no quality factor.',
          },
        ]
      : []),
    ...(noCircuit ? [{ code: 'no-circuit', message: 'No equivalent circuit fits this sweep.' }] : []),
  ]
}
