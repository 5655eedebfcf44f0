export interface Parting {
  /** First sample at which the two differ by more than their combined U, and stay so for `lasting` samples. */
  index: number
  time: number
  difference: number
  /** Value of the guide there, when one is given. */
  guide: number | null
}

/**
 * Where two channels that ought to agree part: their difference against their combined expanded uncertainty. A single
 * odd sample is not a parting; it must last.
 *
 * @param U  expanded uncertainty of each channel, same unit
 * @param lasting  samples in a row, gaps not counted
 */
export function findParting(
  t: Float64Array,
  a: Float64Array,
  b: Float64Array,
  U: { a: number; b: number },
  o: { guide?: Float64Array; lasting?: number } = {},
): Parting | null {
  const combined = Math.hypot(U.a, U.b)
  const lasting = o.lasting ?? 5
  let [since, count] = [-1, 0]
  for (let i = 0; i < t.length; i++) {
    const difference = a[i]! - b[i]!
    if (Number.isNaN(difference)) continue
    if (Math.abs(difference) <= combined) {
      since = -1
      count = 0
      continue
    }
    if (since < 0) since = i
    if (++count >= lasting)
      return { index: since, time: t[since]!, difference: a[since]! - b[since]!, guide: o.guide?.[since] ?? null }
  }
  return null
}
