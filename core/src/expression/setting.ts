import { HypometError } from '../error'

/** An expression's own error, placed at the setting that holds it. */
export function expressionSetting<T>(work: () => T): T {
  try {
    return work()
  } catch (e) {
    throw e instanceof HypometError ? new HypometError('setting-range', e.message, { path: 'settings.expression' }) : e
  }
}
