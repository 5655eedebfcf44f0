import { isWhyNull, lacksUncertainty, type MethodOutput, type Result } from '@hypomet/core'

/** Parts of less than this share of the square are not named, and no more than so many. */
const [LEAST_SHARE, MOST_PARTS] = [0.01, 4]

/** Why some results could not be had: what the reduction says of it. */
export const whyNull = ({ warnings }: Pick<MethodOutput, 'warnings'>): string =>
  warnings
    .filter(w => isWhyNull(w.code))
    .map(w => w.message)
    .join(' ')

/** What an uncertainty is made of, by its share of the square; or that there is none. */
export function madeOf(result: Pick<Result, 'value' | 'u' | 'parts'>): string {
  if (lacksUncertainty(result)) return 'No uncertainty is known of it.'
  const { u, parts = [] } = result
  const all = parts.reduce((s, p) => s + p.u ** 2, 0)
  if (u === undefined || all === 0) return ''
  const shown = parts.filter(p => p.u ** 2 >= LEAST_SHARE * all).slice(0, MOST_PARTS)
  return `Its U is made of ${shown.map(p => `${p.name} ${Math.round((100 * p.u ** 2) / all)}\u202f%`).join(', ')}.`
}
