import { isHypometError } from '../../error'
import type { ResultTable } from '../../method/reduction'
import { fitNonlinear } from '../../statistics/levenbergMarquardt'
import type { Warning } from '../../warning'
import type { Circuit } from './circuit'
import { impedanceNoise, impedanceResiduals, type ImpedanceNoise } from './impedance'

interface Explanation {
  name: string
  /** What is free, at its value in the model, with its unit. */
  symbol: string
  unit: string
  start: number
  lower: number
  upper: number
  circuit(model: Circuit, p: number): Circuit
}

const EXPLANATIONS: Explanation[] = [
  { name: 'as modelled', symbol: '', unit: '', start: 1, lower: 1, upper: 1, circuit: m => m },
  {
    name: 'capacitance of the cable beside it',
    symbol: 'added',
    unit: 'of C0',
    start: 0.1,
    lower: 0,
    upper: 20,
    circuit: (m, p) => ({ ...m, C0: m.C0 * (1 + p) }),
  },
  {
    name: 'softened or lossy backing',
    symbol: 'R1',
    unit: 'of the model’s',
    start: 1.2,
    lower: 0.02,
    upper: 50,
    circuit: (m, p) => ({ ...m, R1: m.R1 * p }),
  },
  // The motional branch goes with the square of the coupling: less of it means a higher impedance of that branch
  // throughout.
  {
    name: 'element partly depoled',
    symbol: 'coupling',
    unit: 'of the model’s',
    start: 0.8,
    lower: 0.05,
    upper: 2,
    circuit: (m, p) => ({ ...m, R1: m.R1 / p ** 2, L1: m.L1 / p ** 2, C1: m.C1 * p ** 2 }),
  },
]

/** Less than that is nothing. */
const LEAST = 1e-6
/** Of its degrees of freedom: a chi-square beyond that is not what the rows' scatter leaves. */
const FITS = 3
/** Scores closer than that leave the better one less than e times as likely. */
const SEPARATED = 2
/** Beginnings that an unknown is looked for from, and how many are gone on with. */
const [BEGINNINGS, POLISHED] = [15, 6]

export interface Explained {
  table: ResultTable
  warnings: Warning[]
}

/**
 * What could explain a sweep that is not as its model says: each explanation frees one number of the circuit. They are
 * held against logarithms of the size and phases, each in the scatter that the rows show beside their neighbours, and
 * ranked by chi-square and what each freed number costs. One whose chi-square is beyond that scatter does not fit; the
 * right one may not be on the list.
 *
 * @source Schwarz (1978), Estimating the Dimension of a Model; Burnham & Anderson, Model Selection, ch. 6.4
 */
export function explanations(frequency: Float64Array, R: Float64Array, X: Float64Array, model: Circuit): Explained {
  const logSize = R.map((r, i) => Math.log(Math.hypot(r, X[i]!)))
  const phase = R.map((r, i) => Math.atan2(X[i]!, r))
  const noise = impedanceNoise(frequency, logSize, phase)
  const n = 2 * frequency.length
  const residualsOf = (c: Circuit) => impedanceResiduals(c, frequency, logSize, phase, noise)
  const tried = EXPLANATIONS.map(e => {
    const free = e.lower < e.upper ? 1 : 0
    const value = free ? bestOf(e, model, residualsOf) : e.start
    const chiSquare = sumOfSquares(residualsOf(e.circuit(model, value)))
    return {
      name: e.name,
      free: free ? `${e.symbol} ${value.toPrecision(3)} ${e.unit}` : 'nothing',
      chiSquare,
      reducedChi: chiSquare / (n - free),
      score: chiSquare + free * Math.log(n),
    }
  })
  const least = Math.min(...tried.map(t => t.score))
  const weights = tried.map(t => Math.exp(-(t.score - least) / 2))
  const sum = weights.reduce((a, b) => a + b, 0)
  const ranked = tried
    .map((t, i) => ({ ...t, delta: t.score - least, weight: weights[i]! / sum, fits: t.reducedChi <= FITS }))
    .sort((a, b) => a.delta - b.delta)
  return {
    warnings: warningsOf(ranked, noise),
    table: {
      columns: {
        explanation: ranked.map(r => r.name),
        freed: ranked.map(r => r.free),
        chiSquare: ranked.map(r => r.chiSquare),
        reducedChi: ranked.map(r => r.reducedChi),
        delta: ranked.map(r => r.delta),
        weight: ranked.map(r => (r.weight < LEAST ? 0 : r.weight)),
        fits: ranked.map(r => (r.fits ? 'yes' : 'no')),
      },
      units: { explanation: '', freed: '', chiSquare: '1', reducedChi: '1', delta: '1', weight: '1', fits: '' },
    },
  }
}

function warningsOf(
  [best, second]: readonly { name: string; reducedChi: number; delta: number; fits: boolean }[],
  { magnitude, phase }: ImpedanceNoise,
): Warning[] {
  if (!best!.fits)
    return [
      {
        code: 'none-fits',
        message:
          `None of the explanations fits: the nearest, “${best!.name}”, is off by ` +
          `${Math.sqrt(best!.reducedChi).toPrecision(2)} times what the rows scatter by ` +
          `(${(100 * magnitude).toPrecision(2)} %, ${((180 / Math.PI) * phase).toPrecision(2)}°). The fault is not ` +
          `on this list, or there are several.`,
      },
    ]
  return second!.delta < SEPARATED
    ? [{ code: 'not-separated', message: `This sweep does not tell “${best!.name}” and “${second!.name}” apart.` }]
    : []
}

const sumOfSquares = (r: Float64Array): number => r.reduce((s, v) => s + v * v, 0)

/** The least chi-square within the bounds: from many beginnings, for a resonance that is elsewhere has valleys. */
function bestOf(
  { lower, upper, circuit }: Explanation,
  model: Circuit,
  residualsOf: (c: Circuit) => Float64Array,
): number {
  const residuals = (p: ArrayLike<number>) => residualsOf(circuit(model, p[0]!))
  const isWide = lower > 0 && upper / lower >= 10
  const at = (share: number) => (isWide ? lower * (upper / lower) ** share : lower + share * (upper - lower))
  const begun = Array.from({ length: BEGINNINGS }, (_, i) => at((i + 0.5) / BEGINNINGS))
    .map(p => ({ p, rss: sumOfSquares(residuals([p])) }))
    .sort((a, b) => a.rss - b.rss)
  const found = begun.slice(0, POLISHED).map(({ p: start, rss }) => {
    try {
      const fit = fitNonlinear({
        parameters: [{ name: 'p', start, lower, upper }],
        residuals,
        isNear: true,
        slopes(p) {
          const h = 1e-6 * Math.max(1e-3, Math.abs(p[0]!))
          const [up, down] = [residuals([p[0]! + h]), residuals([p[0]! - h])]
          return [up.map((v, i) => (down[i]! - v) / (2 * h))]
        },
      })
      return { p: fit.values[0]!, rss: fit.rss }
    } catch (e) {
      if (isHypometError(e)) return { p: start, rss }
      throw e
    }
  })
  return found.reduce((a, b) => (b.rss < a.rss ? b : a)).p
}
