import type { ReadingDoubt, ResultScatter } from '../../family/contract'
import type { Reduction } from '../../method/reduction'
import { effectiveCount } from '../../statistics/effectiveCount'
import { meanSd } from '../../statistics/mean'
import { SeededRandom } from '../../statistics/random'
import { CIRCUIT_VALUES, insideVertex, LOW_ROWS } from './sweep'
import type { TransducerSettings } from './settings'

/**
 * A sweep's rows scatter about the circuit that fits them by the residual, in proportion to what was measured. Where
 * neighbours err alike, as many rows say less than they are. A median of n scatters by 1.25/√n of one of them.
 *
 * @source JCGM 100:2008, 4.2; Priestley, Spectral Analysis and Time Series, 5.3
 */
export const transducerDoubt: ReadingDoubt<TransducerSettings> = {
  scatter: (_, s, reduction) => (s.kind === 'sweep' ? scatterOfSweep(reduction) : {}),
}

const DRAWS = 100

function scatterOfSweep({ results, traces }: Reduction): Record<string, ResultScatter> {
  const { frequency, G, B, fittedG, fittedB } = traces
  const residual = results['residual']!.value
  if (!frequency || !G || !B || !fittedG || !fittedB || residual === null) return {}
  const n = frequency.length
  const fittedR = fittedG.map((g, i) => g / (g * g + fittedB[i]! ** 2))
  const sizes = G.map((g, i) => Math.hypot(g, B[i]!))
  // Of their own size: real and imaginary parts of ΔY/Y.
  const off = (at: (i: number) => number) => Float64Array.from({ length: n }, (_, i) => at(i))
  const re = off(i => ((fittedG[i]! - G[i]!) * G[i]! + (fittedB[i]! - B[i]!) * B[i]!) / sizes[i]! ** 2)
  const im = off(i => ((fittedB[i]! - B[i]!) * G[i]! - (fittedG[i]! - G[i]!) * B[i]!) / sizes[i]! ** 2)
  const share = Math.sqrt(n / Math.min(effectiveCount(re), effectiveCount(im)))
  const dof = 2 * n - 5
  const scatter: Record<string, ResultScatter> = {}
  for (const key of [...CIRCUIT_VALUES, 'clampedCapacitance']) {
    const u = results[key]?.u
    if (u !== undefined && share > 1) scatter[key] = { u: u * Math.sqrt(share ** 2 - 1), dof }
  }
  const capacitance = results['staticCapacitance']!.value
  if (capacitance !== null) {
    const low = frequency.filter(f => f <= LOW_ROWS * results['seriesFrequency']!.value!).length
    scatter['staticCapacitance'] = { u: ((1.2533 * residual * capacitance) / Math.sqrt(low)) * share, dof: low - 1 }
  }
  scatter['residual'] = { u: (residual * share) / Math.sqrt(2 * dof), dof }
  scatter['maxConductanceAt'] = placeOfTop(frequency, fittedG, sizes, residual)
  scatter['maxResistanceAt'] = placeOfTop(
    frequency,
    fittedR,
    sizes.map(y => 1 / y),
    residual,
  )
  return scatter
}

/** Of the parabola through the largest row and its neighbours: by drawn rows, and by what it misses of the curve. */
function placeOfTop(x: Float64Array, fitted: Float64Array, sizes: Float64Array, residual: number): ResultScatter {
  const random = new SeededRandom(1)
  const places = Array.from({ length: DRAWS }, () =>
    insideVertex(
      x,
      fitted.map((v, i) => v + residual * sizes[i]! * random.normal()),
    ),
  ).filter(v => v !== null)
  const [whole, halved] = [insideVertex(x, fitted), insideVertex(everyOther(x), everyOther(fitted))]
  const { sd } = meanSd(places)
  return { u: sd, dof: places.length - 1, bias: whole === null || halved === null ? 0 : Math.abs(whole - halved) / 3 }
}

/** Rows about the largest, half as many: a parabola over twice the distance misses some four times as much. */
const everyOther = (y: Float64Array): Float64Array => y.filter((_, i) => i % 2 === 0)
