import type { FollowUp } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'
import type { TransducerSettings } from './settings'

/** The element's missing constants from its resonances, and the tank for its next pattern. */
export function followUpTransducer({ results }: Pick<MethodOutput, 'results'>, s: TransducerSettings): FollowUp[] {
  const value = (key: string) => results[key]?.value ?? undefined
  const [series, parallel, capacitance] = [
    value('seriesFrequency'),
    value('parallelFrequency'),
    value('staticCapacitance'),
  ]
  const tank: FollowUp = {
    calc: 'tank-plan',
    title: 'Tank, window and distance for its pattern',
    settings: series ? { frequency: series } : {},
  }
  if (s.kind === 'beam' || !series || !parallel) return [tank]
  return [
    {
      calc: 'element-properties',
      title: 'What the supplier did not say of the element',
      settings: { seriesFrequency: series, parallelFrequency: parallel, ...(capacitance ? { capacitance } : {}) },
    },
    tank,
  ]
}
