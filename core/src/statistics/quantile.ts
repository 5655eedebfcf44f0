/**
 * The value below which a share of the others lies: of n sorted values the one at round(share·(n − 1)). Found by
 * partition, without sorting the rest; nothing given is changed.
 *
 * @param values  no gaps, at least one
 * @source Hoare (1961), Algorithm 65: Find
 * @example quantile([3, 1, 2], 0.5) // 2
 */
export function quantile(values: ArrayLike<number>, share: number): number {
  const y = Float64Array.from(values)
  return selected(y, Math.round(share * (y.length - 1)))
}

/** The value that would stand at a place if these were sorted; what stands before it is no larger, after it no less. */
function selected(y: Float64Array, wanted: number): number {
  let [low, high] = [0, y.length - 1]
  while (low < high) {
    const pivot = y[(low + high) >> 1]!
    let [i, j] = [low, high]
    while (i <= j) {
      while (y[i]! < pivot) i++
      while (y[j]! > pivot) j--
      if (i > j) break
      const kept = y[i]!
      y[i++] = y[j]!
      y[j--] = kept
    }
    if (wanted <= j) high = j
    else if (wanted >= i) low = i
    else break
  }
  return y[wanted]!
}

/** The middle of the sorted values; of an even number the mean of the two in the middle. */
export function median(values: ArrayLike<number>): number {
  const y = values instanceof Float64Array ? values.slice() : Float64Array.from(values)
  const half = y.length >> 1
  if (y.length === 0) return NaN
  const upper = selected(y, half)
  if (y.length % 2 === 1) return upper
  let lower = y[0]!
  for (let i = 1; i < half; i++) if (y[i]! > lower) lower = y[i]!
  return (lower + upper) / 2
}
