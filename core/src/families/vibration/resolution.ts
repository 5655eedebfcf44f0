import { fallTo } from '../../signal/fall'
import { vertex } from '../../signal/lag'

/** A resonance as segments of a Hann window show it, its half-power half width true and shown, in bins. */
export interface Shown {
  /** Half of the width at half power that is read. */
  half: number
  /** Largest size that is read, of the true one. */
  height: number
}

/** Where the window's own power ends, bins; and steps of the integral over it. */
const [REACH, STEP] = [4, 0.02]
/** Where between two bins a resonance may lie. */
const OFFSETS = [0, 0.125, 0.25, 0.375, 0.5]
/** True half widths that are looked for, bins; wider ones the window does not widen. */
const [NARROWEST, WIDEST] = [0.02, 30]

let kernel: [x: number, share: number][] | null = null

/** Share of a Hann window's power at distances in bins. */
function windowPower(): [x: number, share: number][] {
  if (kernel) return kernel
  const sinc = (x: number) => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))
  const at = (x: number) => (0.5 * sinc(x) + 0.25 * (sinc(x - 1) + sinc(x + 1))) ** 2
  const places = Array.from({ length: Math.round((2 * REACH) / STEP) }, (_, i) => -REACH + (i + 0.5) * STEP)
  const total = places.reduce((sum, x) => sum + at(x), 0)
  return (kernel = places.map(x => [x, at(x) / total]))
}

/**
 * A resonance of one degree of freedom read through segments: its response to an even drive, smoothed by the window's
 * power, taken at bins and read as a mode is read.
 *
 * @param half  true half width at half power, bins
 * @param offset  of the resonance from a bin, bins
 * @source Bendat & Piersol, Random Data, 8.5.1 and 9.2
 */
export function shownThrough(half: number, offset: number): Shown | null {
  const reach = Math.ceil(2 * half) + REACH
  const size = Float64Array.from({ length: 2 * reach + 1 }, (_, i) => {
    let [re, im] = [0, 0]
    for (const [x, share] of windowPower()) {
      const d = i - reach - offset - x
      // half/(half + j·d), which is one at the top.
      const of = (share * half) / (half * half + d * d)
      re += of * half
      im -= of * d
    }
    return Math.hypot(re, im)
  })
  let bin = reach
  for (const k of [reach - 1, reach + 1]) if (size[k]! > size[bin]!) bin = k
  const { height } = vertex(size[bin - 1]!, size[bin]!, size[bin + 1]!)
  const [low, high] = [fallTo(size, bin, -1, height / Math.SQRT2), fallTo(size, bin, 1, height / Math.SQRT2)]
  return low === null || high === null ? null : { half: (high - low) / 2, height }
}

/**
 * The true half width that is shown as one, with half of what it depends on where the resonance lies between bins.
 *
 * @param half  as it is read, bins
 * @returns null where the window alone is as wide
 */
export function trueHalfWidth(half: number): { half: number; height: number; u: number } | null {
  if (half >= WIDEST) return { half, height: 1, u: 0 }
  const widths = OFFSETS.flatMap(offset => widthAt(half, offset) ?? [])
  if (widths.length < OFFSETS.length) return null
  const [least, most] = [Math.min(...widths), Math.max(...widths)]
  const middle = (least + most) / 2
  return { half: middle, height: shownThrough(middle, 0.25)?.height ?? 1, u: (most - least) / 2 / Math.sqrt(3) }
}

/** What is shown grows with what is true: by halving. */
function widthAt(half: number, offset: number): number | null {
  let [low, high] = [NARROWEST, half]
  const shown = (h: number) => shownThrough(h, offset)?.half ?? Infinity
  if (shown(low) >= half) return null
  for (let i = 0; i < 20; i++) {
    const middle = (low + high) / 2
    if (shown(middle) < half) low = middle
    else high = middle
  }
  return (low + high) / 2
}
