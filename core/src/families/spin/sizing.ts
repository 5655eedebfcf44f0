import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { spinFacts } from './facts'

const similar = (exponent: number, doubt: number, what: string) => ({
  exponent,
  doubt,
  because: `similar fans ${what}`,
})

/** @source fan laws: thrust ρn²D⁴, power ρn³D⁵ for similar fans */
export const spinSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'diameter',
      ...sizeBy(spinFacts, 'diameter'),
      step: 0.01,
      mass: { exponent: 3, part: sizeBy(spinFacts, 'fanMass').fact },
      touches: ['Guard and stand-off', 'Tip speed', 'Current at the same set-point'],
      results: { maxThrust: similar(4, 0.3, 'at one speed'), maxElectricalPower: similar(5, 0.3, 'at one speed') },
    },
    {
      key: 'speed',
      ...sizeBy(spinFacts, 'speed'),
      touches: ['Stored energy of the rotor', 'Motor temperature'],
      results: { maxThrust: similar(2, 0.1, 'of one size'), maxElectricalPower: similar(3, 0.15, 'of one size') },
    },
  ],
}
