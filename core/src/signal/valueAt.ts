/** Straight between the points of a rising x; the ends are held. */
export function valueAt({ x, y }: { x: readonly number[]; y: readonly number[] }, at: number): number {
  let [low, high] = [0, x.length - 1]
  if (at <= x[0]!) return y[0]!
  if (at >= x[high]!) return y[high]!
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (x[middle]! <= at) low = middle
    else high = middle
  }
  return y[low]! + ((y[high]! - y[low]!) * (at - x[low]!)) / (x[high]! - x[low]!)
}
