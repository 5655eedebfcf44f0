import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { bucklingFacts } from './facts'

const wall = {
  exponent: 2.2,
  doubt: 0.25,
  because: 'between wall squared (perfect shell) and wall to 5/2 (imperfect ones, whose knockdown rises with the wall)',
}

export const bucklingSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'wall',
      ...sizeBy(bucklingFacts, 'wall'),
      step: 0.0001,
      mass: { exponent: 1 },
      touches: ['Seam', 'Flanges and what they carry'],
      results: {
        peakForce: wall,
        southwellForce: wall,
        onsetForce: wall,
        maxLineLoad: wall,
        knockdown: { exponent: 0.25, doubt: 0.25, because: wall.because },
        margin: { exponent: 0.25, doubt: 0.25, because: wall.because },
      },
    },
  ],
  bases: () => ({ margin: -1 }),
}
