import type { SizingDimension } from '@hypomet/core'

const MOST = 400

/**
 * Stops of a slider: the sizes that can be had, or a fine scale over what a change may reach; the tested size is one of
 * them.
 */
export function madeSizes({
  sizes,
  step,
  reach: [low, high],
  value,
}: Pick<SizingDimension, 'sizes' | 'step' | 'reach' | 'value'>): number[] {
  const listed = sizes ? sizes.filter(s => s >= low && s <= high) : stepped(step ?? 0, low, high)
  return [...new Set([...listed, value])].toSorted((a, b) => a - b)
}

function stepped(step: number, low: number, high: number): number[] {
  if (step > 0 && (high - low) / step <= MOST)
    return Array.from(
      { length: Math.floor((high - low) / step) + 1 },
      (_, i) => (Math.ceil(low / step - 1e-9) + i) * step,
    ).filter(s => s <= high * (1 + 1e-9))
  return Array.from({ length: MOST / 2 + 1 }, (_, i) => low * (high / low) ** (i / (MOST / 2)))
}
