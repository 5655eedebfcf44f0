import type { ReadingDoubt, ResultScatter } from '../../family/contract'
import type { Reduction } from '../../method/reduction'
import type { Table } from '../../method/table'
import { meanSd } from '../../statistics/mean'
import { SeededRandom } from '../../statistics/random'
import { modeAt } from './mode'
import { trueHalfWidth } from './resolution'
import type { VibrationSettings } from './settings'

const DRAWS = 200
/** Errors of neighbouring bins through a Hann window, segments overlapping by half: correlated by (2/3)². */
const WITH_NEXT = 0.6
/** Independent averages of so many half-overlapping Hann segments. */
const INDEPENDENT = 0.947

/**
 * A response over a drive of noise scatters by √((1 − γ²)/(2γ²·n)) of itself at every bin: records of the bins about
 * the first mode are drawn with it. Segments widen a narrow resonance and cut its top: by how much is worked out, and
 * counted as bias.
 *
 * @source Bendat & Piersol, Random Data, 9.2 (table 9.6) and 8.5.1
 */
export const vibrationDoubt: ReadingDoubt<VibrationSettings> = {
  scatter: (table, s, reduction) => scatterOf(table, s, reduction),
}

function scatterOf(
  { t }: Table,
  s: VibrationSettings,
  { results, tables, traces }: Reduction,
): Record<string, ResultScatter> {
  const frequency = results['firstFrequency']!.value
  if (frequency === null) return {}
  const channel = tables['levels']!.columns['channel']![1] as string
  const [size, coherence] = [traces[`size:${channel}`]!, traces[`coherence:${channel}`]!]
  const df = traces['frequency']![1]!
  const segments = Math.floor((2 * (t.length - s.nperseg)) / s.nperseg) + 1
  const averages = Math.max(1, INDEPENDENT * segments)
  const bin = binOfTop(size, Math.round(frequency / df))
  const share = (k: number) => {
    const c = Math.min(Math.max(coherence[k]!, 1e-6), 1)
    return Math.min(1, Math.sqrt((1 - c) / (2 * c * averages)))
  }
  const random = new SeededRandom(1)
  const drawn: { frequency: number[]; damping: number[]; amplitude: number[] } = {
    frequency: [],
    damping: [],
    amplitude: [],
  }
  for (let i = 0; i < DRAWS; i++) {
    let before = random.normal()
    const moved = size.map((v, k) => {
      const fresh = random.normal()
      const e = (fresh + WITH_NEXT * before) / Math.hypot(1, WITH_NEXT)
      before = fresh
      return v * Math.max(0, 1 + share(k) * e)
    })
    const mode = modeAt(moved, binOfTop(moved, bin), df)
    drawn.frequency.push(mode.frequency)
    drawn.amplitude.push(mode.amplitude)
    if (mode.damping !== null) drawn.damping.push(mode.damping)
  }
  const [f, a] = [meanSd(drawn.frequency).sd, meanSd(drawn.amplitude).sd]
  const c = Math.min(coherence[bin]!, 1)
  return {
    firstFrequency: { u: f, dof: Infinity },
    ...(results['frequencyMargin'] ? { frequencyMargin: { u: f / s.minFrequency!, dof: Infinity } } : {}),
    // A coherence of few averages is too large, by (1 − γ²)²/n.
    firstCoherence: {
      u: ((1 - c) * Math.sqrt(2 * c)) / Math.sqrt(averages),
      dof: Infinity,
      bias: (1 - c) ** 2 / averages,
    },
    ...dampingScatter(results, frequency / df, drawn.damping, a),
  }
}

function dampingScatter(
  results: Reduction['results'],
  bins: number,
  drawn: readonly number[],
  a: number,
): Record<string, ResultScatter> {
  const [damping, amplitude] = [results['firstDamping']!.value, results['firstAmplitude']!.value!]
  if (damping === null || drawn.length < DRAWS / 2) return { firstAmplitude: { u: a, dof: Infinity } }
  const { mean, sd } = meanSd(drawn)
  const behind = trueHalfWidth(damping * bins)
  // What noise makes of the width: it is read at bins that are largest by chance.
  const byChance = Math.abs(mean - damping)
  const bias = byChance + (behind ? Math.abs(damping - behind.half / bins) : damping)
  const u = Math.hypot(sd, behind ? behind.u / bins : 0)
  const cut = behind ? amplitude * (1 / behind.height - 1) : amplitude
  return {
    firstAmplitude: { u: a, dof: Infinity, bias: cut },
    firstDamping: { u, dof: Infinity, bias },
    firstDampingCorrected: {
      // Narrow ones move by more than what is read of them.
      u: Math.hypot(u * steepness(damping * bins), behind ? behind.u / bins : 0),
      dof: Infinity,
      bias: byChance,
    },
  }
}

/** By how much more than what is shown the true half width moves. */
function steepness(shown: number): number {
  const [a, b] = [trueHalfWidth(0.98 * shown), trueHalfWidth(1.02 * shown)]
  return a && b ? (b.half - a.half) / (0.04 * shown) : 1
}

const binOfTop = (size: Float64Array, near: number): number => {
  let bin = Math.max(1, Math.min(size.length - 2, near))
  while (bin > 1 && size[bin - 1]! > size[bin]!) bin--
  while (bin < size.length - 2 && size[bin + 1]! > size[bin]!) bin++
  return bin
}
