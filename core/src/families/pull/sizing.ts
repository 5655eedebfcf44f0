import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { pullFacts } from './facts'

/** Threads side by side carry alike: force, stiffness and energy go with the width and with the number of layers. */
const side = { exponent: 1, doubt: 0.1, because: 'threads side by side share the force' }
const sideBySide = { peakForce: side, stiffness: side, energyToPeak: side }

export const pullSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'width',
      ...sizeBy(pullFacts, 'width'),
      step: 0.005,
      results: sideBySide,
      mass: { exponent: 1 },
      touches: ['Fittings and pins'],
    },
    {
      key: 'section',
      ...sizeBy(pullFacts, 'section'),
      results: sideBySide,
      mass: { exponent: 1 },
      touches: ['Terminations'],
    },
    {
      key: 'layers',
      ...sizeBy(pullFacts, 'layers'),
      step: 1,
      results: sideBySide,
      mass: { exponent: 1 },
      touches: ['Seam: more layers to sew through'],
    },
  ],
}
