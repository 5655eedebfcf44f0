import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import { rowsWith } from '../../method/rows'
import type { ReduceContext, Table } from '../../method/table'
import type { Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { indexOfMax } from '../../signal/rising'
import { median } from '../../statistics/quantile'
import { coverageFactor } from '../../uncertainty/coverage'
import { admittance, fitCircuit, type CircuitValue, type FittedCircuit } from './circuit'
import { explanations } from './explanations'
import type { TransducerSettings } from './settings'
import { responses } from './responses'

const FEWEST = 8
/** Rows that tell the capacitance lie so far below the resonance, and so many of them are needed. */
export const LOW_ROWS = 0.3
const FEWEST_BELOW = 5
/** A circuit that is off by more on the whole does not describe the sweep. */
const POOR = 0.05

const UNITS: Record<CircuitValue, string> = {
  seriesFrequency: 'Hz',
  parallelFrequency: 'Hz',
  coupling: '1',
  qualityFactor: '1',
  R1: 'ohm',
  L1: 'H',
  C1: 'F',
  C0: 'F',
  lossTangent: '1',
}

export const CIRCUIT_VALUES = Object.keys(UNITS) as CircuitValue[]

/**
 * Impedance sweep: the equivalent circuit that fits all rows, and the resonances, coupling and quality that it has. A
 * parabola through three noisy rows scatters far more than the fit.
 *
 * @param table  frequency [Hz] and magnitude [ohm] with phase [rad], or resistance with reactance [ohm]
 * @throws HypometError `missing-channel`, `data-range` below eight rows, or for a frequency or an impedance of nothing
 * @source IEEE Std 176-1987, IEEE Std 177; methods.md, “transducer”
 */
export function reduceSweep(table: Table, s: TransducerSettings, { resultsOnly }: ReduceContext): Reduction {
  const { frequency, R, X } = sorted(table)
  if (frequency.length < FEWEST)
    throw new HypometError('data-range', 'A sweep needs at least eight rows.', { path: 'channels.frequency' })
  if (!(frequency[0]! > 0))
    throw new HypometError('data-range', 'A frequency is above zero.', { path: 'channels.frequency' })
  const size = R.map((r, i) => r * r + X[i]! ** 2)
  if (size.some(v => v === 0))
    throw new HypometError('data-range', 'An impedance of nothing has no admittance.', { path: 'channels' })
  const [G, B] = [R.map((r, i) => r / size[i]!), X.map((x, i) => -x / size[i]!)]
  const [conductance, resistance] = [insideVertex(frequency, G), insideVertex(frequency, R)]
  const fit = conductance && resistance ? fitCircuit(frequency, G, B, conductance) : null
  const capacitance = fit && lowCapacitance(frequency, B, fit)
  const k = coverageFactor(2 * frequency.length - 5)
  const explained = s.model && fit && !resultsOnly ? explanations(frequency, R, X, s.model) : null
  const ofCircuit = (key: CircuitValue, unit: string): Result => {
    if (!fit) return exact(null, unit)
    const { value, u } = fit.values[key]
    return { value, unit, bound: 'exact', ...(Number.isFinite(u) && u > 0 ? { u, k } : {}) }
  }
  return {
    results: {
      ...responses(s),
      ...Object.fromEntries(CIRCUIT_VALUES.map(key => [key, ofCircuit(key, UNITS[key])])),
      clampedCapacitance: ofCircuit('C0', 'F'),
      residual: exact(fit && fit.residual, '1'),
      maxConductanceAt: exact(fit && conductance, 'Hz'),
      maxResistanceAt: exact(fit && resistance, 'Hz'),
      staticCapacitance: exact(capacitance, 'F'),
    },
    tables: explained ? { explanations: explained.table } : {},
    warnings: [...warningsOf(fit, capacitance), ...(explained?.warnings ?? [])],
    traces: {
      frequency,
      R,
      X,
      G,
      B,
      ...(fit ? fittedTraces(frequency, fit) : {}),
      ...(s.model ? modelTraces(frequency, s.model) : {}),
    },
  }
}

function sorted(table: Table): { frequency: Float64Array; R: Float64Array; X: Float64Array } {
  const isPolar = table.channels['magnitude'] && table.channels['phase']
  const { channels } = rowsWith(table, [
    'frequency',
    ...(isPolar ? ['magnitude', 'phase'] : ['resistance', 'reactance']),
  ])
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

/** Where a curve is largest, by the parabola through three rows; null at either end of the sweep. */
export function insideVertex(x: Float64Array, y: Float64Array): number | null {
  const i = indexOfMax(y)
  if (i === 0 || i === y.length - 1) return null
  const [a, b] = [x[i - 1]! - x[i]!, x[i + 1]! - x[i]!]
  const [ya, yb] = [y[i - 1]! - y[i]!, y[i + 1]! - y[i]!]
  // y = y₀ + p·d + q·d² about the middle row.
  const q = (ya / a - yb / b) / (a - b)
  const p = ya / a - q * a
  return x[i]! + (q === 0 ? 0 : -p / (2 * q))
}

/** Capacitance well below the resonance, what the motional branch adds there taken to its limit, F. */
function lowCapacitance(frequency: Float64Array, B: Float64Array, { values, circuit }: FittedCircuit): number | null {
  const low: number[] = []
  for (let i = 0; i < frequency.length; i++) {
    const x = frequency[i]! / values.seriesFrequency.value
    if (x <= LOW_ROWS) low.push(B[i]! / (2 * Math.PI * frequency[i]!) - (circuit.C1 * x * x) / (1 - x * x))
  }
  return low.length < FEWEST_BELOW ? null : median(low)
}

function fittedTraces(frequency: Float64Array, { circuit }: FittedCircuit): Record<string, Float64Array> {
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

function warningsOf(fit: FittedCircuit | null, capacitance: number | null): Warning[] {
  if (!fit)
    return [
      {
        code: 'no-resonance',
        message:
          'There is no resonance inside this sweep: conductance or resistance is largest at its end, or no circuit ' +
          'fits. Sweep farther.',
      },
    ]
  return [
    ...(capacitance === null
      ? [
          {
            code: 'sweep-starts-late',
            message: 'Fewer than five rows lie below 0.3 of the resonance: there is no static capacitance.',
          },
        ]
      : []),
    ...(fit.residual > POOR
      ? [
          {
            code: 'poor-fit',
            message:
              `The circuit is off by ${(100 * fit.residual).toFixed(0)} % on the whole: one resonance does not ` +
              `describe this sweep.`,
          },
        ]
      : []),
  ]
}
