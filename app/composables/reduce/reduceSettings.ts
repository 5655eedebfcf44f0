import {
  isHypometError,
  parseSettings,
  planSchemaOf,
  withoutExamples,
  type AnyFamily,
  type FollowUp,
  type MethodOutput,
} from '@hypomet/core'

/** Settings with a number at a path like “holds.1.0”, nothing given changed. */
export function settingsAt(settings: Record<string, unknown>, path: string, x: number): Record<string, unknown> {
  const [key, ...rest] = path.split('.')
  const put = (at: unknown, keys: string[]): unknown => {
    if (keys.length === 0) return Number(x.toPrecision(7))
    const [first, ...more] = keys
    return ((at ?? []) as unknown[]).with(Number(first), put((at as unknown[])[Number(first)], more))
  }
  return { ...settings, [key!]: put(settings[key!], rest) }
}

/** Calculations that go on from the results; none while settings do not hold together. */
export function followUpsFrom(
  family: AnyFamily,
  output: MethodOutput,
  settings: Record<string, unknown>,
  plan: unknown,
): FollowUp[] {
  if (!family.followUps) return []
  try {
    const read = planSchemaOf(family.id).safeParse(plan ?? {})
    return family.followUps(
      output,
      parseSettings(family.settings, settings),
      read.success ? withoutExamples(read.data) : null,
    )
  } catch (e) {
    if (!isHypometError(e)) throw e
    return []
  }
}

/** Of one number: engines differ in the last digits of what they call the same function. */
const SAME = 1e-9

/** Whether two outputs say the same. */
export function isSame(a: unknown, b: unknown): boolean {
  if (typeof a === 'number' && typeof b === 'number')
    return a === b || Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b))
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>]
  const keys = Object.keys(x)
  return keys.length === Object.keys(y).length && keys.every(key => isSame(x[key], y[key]))
}
