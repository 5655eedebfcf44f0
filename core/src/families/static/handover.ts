import { lowerEdge, settingSi, type OperatingInput, type OperatingTable } from '../../advise/operating'

/** Static: the same load in the structure at other weights. */
export function handover({ results, limits, settings }: OperatingInput): OperatingTable | null {
  const design = settingSi(settings['designLoad'], 'force')
  const shown = lowerEdge(results['maxLoad'])
  const limit = limits.find(l => l.quantity === 'maxLoad')
  if (design === null || shown === null) return null
  const factor = limit?.factor ?? 1
  return {
    title: 'Load factor against weight',
    columns: ['Weight that hangs', 'Load factor allowed'],
    sentence:
      `The largest load shown, less its uncertainty, over the factor ${factor} and the weight: the ` +
      `structure carries the same load whatever hangs.`,
    rows: [0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1].map(share => [
      { value: share * design, kind: 'force' },
      { value: shown / factor / (share * design), kind: 'ratio' },
    ]),
  }
}
