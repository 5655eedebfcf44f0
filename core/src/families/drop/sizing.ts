import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { dropFacts } from './facts'
import { STANDARD_GRAVITY } from '../../quantity/units'

const wall = {
  exponent: 1.4,
  doubt: 0.3,
  because: 'the absorber’s force goes with its wall, between splaying and folding',
}

export const dropSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'wall',
      ...sizeBy(dropFacts, 'wall'),
      step: 0.0001,
      mass: { exponent: 1, part: sizeBy(dropFacts, 'bufferMass').fact },
      touches: ['Stroke: what stops harder stops shorter', 'What carries the buffer’s force'],
      results: {
        plateau: wall,
        peak: wall,
        displacement: { exponent: -1.4, doubt: 0.4, because: 'the energy of the fall is force times stroke' },
      },
    },
    {
      key: 'height',
      isGiven: true,
      ...sizeBy(dropFacts, 'height'),
      step: 0.05,
      touches: ['What the test stands for in service'],
      results: {
        displacement: { exponent: 1, doubt: 0.15, because: 'the energy of the fall is force times stroke' },
        rebound: { exponent: 0.5, doubt: 0.2, because: 'speeds go with the root of the height' },
      },
    },
  ],
  // An absorber’s force carries the weight as well: its share of the mass is the deceleration and g together.
  bases: () => ({ plateau: -STANDARD_GRAVITY, peak: -STANDARD_GRAVITY }),
}
