const bulk = new WeakSet<object>()

/** An answer that goes into a page as the JSON that it came as, whatever its size. */
export function asBulk<T extends object>(answer: T): T {
  if (import.meta.server) bulk.add(answer)
  return answer
}
export const isBulk = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && bulk.has(value)
