/** Where a date lies between two others, 0 … 1. */
export function shareOfSpan(from: string, to: string, on: string): number {
  const [a, b, t] = [from, to, on].map(d => Date.parse(d)) as [number, number, number]
  return b === a ? 0.5 : Math.min(1, Math.max(0, (t - a) / (b - a)))
}
