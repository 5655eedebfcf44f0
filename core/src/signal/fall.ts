/**
 * Where a curve first falls to a level on one side of its peak, straight between the two samples around it; null where
 * it
 * does not.
 *
 * @param x  places of the samples; without it their indices count
 * @param step  which side: −1 to the left, 1 to the right
 * @example fallTo([0, 2, 4, 0], 2, 1, 1) // 2.75
 */
export function fallTo(
  y: ArrayLike<number>,
  peak: number,
  step: -1 | 1,
  level: number,
  x?: ArrayLike<number>,
): number | null {
  const at = (i: number) => (x ? x[i]! : i)
  for (let i = peak; i + step >= 0 && i + step < y.length; i += step)
    if (y[i + step]! <= level) return at(i) + ((y[i]! - level) / (y[i]! - y[i + step]!)) * (at(i + step) - at(i))
  return null
}
