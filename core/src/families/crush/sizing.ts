import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { crushFacts } from './facts'

const crushed = { exponent: 1.4, doubt: 0.3, because: 'between wall (splaying) and wall to 5/3 (folding)' }
const around = { exponent: 0.7, doubt: 0.3, because: 'between diameter to 1/3 (folding) and diameter (splaying)' }

/**
 * @source Wierzbicki & Abramowicz (1983), J. Appl. Mech. 50 (folding: t^5/3, c^1/3); area times crush stress for
 * splaying tubes
 */
export const crushSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'wall',
      ...sizeBy(crushFacts, 'wall'),
      step: 0.0001,
      mass: { exponent: 1 },
      touches: ['Trigger: it must still start the crush', 'What carries the force behind it'],
      results: {
        meanForce: crushed,
        energy: crushed,
        specificEnergy: { ...crushed, exponent: 0.4 },
        initialPeak: { exponent: 1, doubt: 0.2, because: 'the whole section yields at once' },
      },
    },
    {
      key: 'diameter',
      ...sizeBy(crushFacts, 'diameter'),
      step: 0.001,
      mass: { exponent: 1 },
      touches: ['Sockets', 'Trigger'],
      results: {
        meanForce: around,
        energy: around,
        specificEnergy: { ...around, exponent: -0.3 },
        initialPeak: { exponent: 1, doubt: 0.2, because: 'the whole section yields at once' },
      },
    },
  ],
}
