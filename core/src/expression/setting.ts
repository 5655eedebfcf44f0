import { HypometError } from '../error'

/** An expression's own error, placed at the setting that holds it. */
export function expressionSetting<T>(work: () => T): T {
  try {
    return work()
  } catch (e) {
    if (!(e instanceof HypometError)) throw e
    const code = e.code === 'unit-dimension' ? e.code : 'setting-range'
    throw new HypometError(code, e.message, { path: 'settings.expression' })
  }
}
