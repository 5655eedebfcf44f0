import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { flowFacts } from './facts'

const area = { exponent: 2, doubt: 0.3, because: 'flow goes with the area at one coefficient' }

export const flowSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'throat',
      ...sizeBy(flowFacts, 'throat'),
      step: 0.00025,
      results: { meanFlow: area },
      touches: ['Velocity in the port', 'Wall left around it'],
    },
    {
      key: 'valve',
      ...sizeBy(flowFacts, 'valve'),
      step: 0.00025,
      results: { meanFlow: { exponent: 1, doubt: 0.3, because: 'at low lift the curtain’s area counts, π·d·lift' } },
      touches: ['Seat', 'Spring force'],
    },
  ],
}
