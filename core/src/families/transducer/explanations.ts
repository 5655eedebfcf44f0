import { isHypometError } from '../../error'
import type { ResultTable } from '../../method/reduction'
import { fitNonlinear } from '../../statistics/levenbergMarquardt'
import { misfit, type Circuit } from './circuit'

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

/**
 * What could explain a sweep that is not as its model says: each explanation frees one number of the circuit; ranked by
 * AICc
 * over the complex admittances. Rows of a sweep are taken as independent.
 *
 * @source Burnham & Anderson, Model Selection and Multimodel Inference, ch. 2
 */
export function explanations(frequency: Float64Array, G: Float64Array, B: Float64Array, model: Circuit): ResultTable {
  const n = 2 * frequency.length
  const w = frequency.map(f => 2 * Math.PI * f)
  const residualsOf = (c: Circuit) => misfit(c, w, G, B)
  const tried = EXPLANATIONS.map(e => {
    const free = e.lower < e.upper
    const value = free ? bestOf(e, model, residualsOf) : e.start
    const rss = residualsOf(e.circuit(model, value)).reduce((s, v) => s + v * v, 0)
    const K = (free ? 1 : 0) + 1
    return {
      name: e.name,
      free: free ? `${e.symbol} ${value.toPrecision(3)} ${e.unit}` : 'nothing',
      rss,
      aicc: n * Math.log(rss / n) + 2 * K + (2 * K * (K + 1)) / (n - K - 1),
    }
  })
  const least = Math.min(...tried.map(t => t.aicc))
  const weights = tried.map(t => Math.exp(-(t.aicc - least) / 2))
  const sum = weights.reduce((a, b) => a + b, 0)
  const ranked = tried
    .map((t, i) => ({ ...t, delta: t.aicc - least, weight: weights[i]! / sum }))
    .sort((a, b) => a.delta - b.delta)
  return {
    columns: {
      explanation: ranked.map(r => r.name),
      freed: ranked.map(r => r.free),
      rss: ranked.map(r => r.rss),
      delta: ranked.map(r => r.delta),
      weight: ranked.map(r => (r.weight < LEAST ? 0 : r.weight)),
    },
    units: { explanation: '', freed: '', rss: '', delta: '1', weight: '1' },
  }
}

function bestOf(
  { start, lower, upper, circuit }: Explanation,
  model: Circuit,
  residualsOf: (c: Circuit) => Float64Array,
): number {
  const residuals = (p: ArrayLike<number>) => residualsOf(circuit(model, p[0]!))
  try {
    const fit = fitNonlinear({
      parameters: [{ name: 'p', start, lower, upper }],
      residuals,
      slopes(p) {
        const h = 1e-6 * Math.max(1e-3, Math.abs(p[0]!))
        const [up, down] = [residuals([p[0]! + h]), residuals([p[0]! - h])]
        return [up.map((v, i) => (down[i]! - v) / (2 * h))]
      },
    })
    return fit.values[0]!
  } catch (e) {
    if (isHypometError(e)) return start
    throw e
  }
}
