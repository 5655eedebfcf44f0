/**
 * Local maxima of y in [from, to) whose topographic prominence reaches a threshold: how far one must go down from it
 * before
 * a higher place is reached. A flat top counts by its middle; the ends are no maxima.
 *
 * @returns  indices, rising
 * @example prominentPeaks([0, 3, 1, 2, 0], 0, 5, 2) // [1]
 */
export function prominentPeaks(y: Float64Array, from: number, to: number, threshold: number): number[] {
  const found: number[] = []
  for (let i = from + 1; i < to - 1; i++) {
    if (!(y[i]! > y[i - 1]!)) continue
    let end = i
    while (end < to - 1 && y[end + 1]! === y[i]!) end++
    if (end < to - 1 && y[end + 1]! < y[i]! && prominenceOf(y, i, from, to) >= threshold) found.push((i + end) >> 1)
    i = end
  }
  return found
}

function prominenceOf(y: Float64Array, peak: number, from: number, to: number): number {
  const lowest = (step: -1 | 1) => {
    let low = y[peak]!
    for (let i = peak + step; i >= from && i < to && y[i]! <= y[peak]!; i += step) if (y[i]! < low) low = y[i]!
    return low
  }
  return y[peak]! - Math.max(lowest(-1), lowest(1))
}
