import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { vibrationFacts } from './facts'

const bending = {
  exponent: 1.5,
  doubt: 0.3,
  because: 'a plate in bending is stiff by its thickness cubed, a frequency goes with the root',
}
const carried = { exponent: -0.5, doubt: 0.05, because: 'a frequency goes with the root of stiffness over mass' }

export const vibrationSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'bracket',
      ...sizeBy(vibrationFacts, 'bracket'),
      step: 0.0005,
      mass: { exponent: 1, part: sizeBy(vibrationFacts, 'bracketMass').fact },
      touches: ['Bolts: longer', 'Other modes of the bracket'],
      results: { firstFrequency: bending, frequencyMargin: bending },
    },
    {
      key: 'carried',
      isGiven: true,
      ...sizeBy(vibrationFacts, 'carried'),
      step: 0.5,
      mass: { exponent: 1, part: sizeBy(vibrationFacts, 'carried').fact },
      touches: ['What is inside'],
      results: { firstFrequency: carried, frequencyMargin: carried },
    },
  ],
  bases: () => ({ frequencyMargin: -1 }),
}
