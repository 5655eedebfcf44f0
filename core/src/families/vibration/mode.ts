import { fallTo } from '../../signal/fall'
import { vertex } from '../../signal/lag'

export interface Mode {
  channel: string
  frequency: number
  damping: number | null
  amplitude: number
  coherence: number
  /** Where it stands among the bins. */
  bin: number
}

/** A peak as a mode: its place and height by the parabola through three bins, its damping by the half-power width. */
export function modeAt(
  size: Float64Array,
  bin: number,
  df: number,
): { frequency: number; amplitude: number; damping: number | null } {
  const { offset, height } = vertex(size[bin - 1]!, size[bin]!, size[bin + 1]!)
  const frequency = (bin + offset) * df
  const [low, high] = [fallTo(size, bin, -1, height / Math.SQRT2), fallTo(size, bin, 1, height / Math.SQRT2)]
  return {
    frequency,
    amplitude: height,
    damping: low === null || high === null ? null : ((high - low) * df) / (2 * frequency),
  }
}
