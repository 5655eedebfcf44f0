import { lowerEdge, settingSi, type OperatingInput, type OperatingTable } from '../../advise/operating'

/** Static: the same load in the structure at other weights. */
export function handover({ results, limits, settings, weights = [] }: OperatingInput): OperatingTable | null {
  const design = settingSi(settings['designLoad'], 'force')
  const shown = lowerEdge(results['maxLoad'])
  // Of all that is asked of the load the most: over a limit, a factor on top of it or one that is a limit itself.
  const asked = limits.filter(l => l.comparator === 'atLeast' && ['maxLoad', 'loadFactor'].includes(l.quantity))
  if (design === null || shown === null || weights.length === 0) return null
  const factor = asked.reduce((m, l) => Math.max(m, l.quantity === 'loadFactor' ? l.value : l.factor), 1)
  const isBarred = asked.some(l => l.verdict === 'fail')
  return {
    title: 'Load factor against weight',
    columns: ['Weight that hangs', 'Load factor allowed'],
    sentence:
      `The largest load shown, less its uncertainty, over the factor ${factor} and the weight: the ` +
      `structure carries the same load whatever hangs.`,
    rows: weights.map(weight => [
      { value: weight, kind: 'force' },
      isBarred ? 'none: a limit of the load failed' : { value: shown / factor / weight, kind: 'ratio' },
    ]),
  }
}
