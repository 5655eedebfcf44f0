import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { descentFacts } from './facts'

const weight = (exponent: number) => ({
  exponent,
  doubt: 0.05,
  because: 'steady descent: weight is drag area times dynamic pressure',
})
const opening = (exponent: number, doubt: number) => ({
  exponent,
  doubt,
  because: 'opening force goes with the drag area that opens',
})

export const descentSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'area',
      ...sizeBy(descentFacts, 'area'),
      step: 0.5,
      mass: { exponent: 1 },
      touches: ['Packed volume', 'Landing ellipse: slower drifts farther'],
      results: {
        descentRate: weight(-0.5),
        seaLevelRate: weight(-0.5),
        dragArea: weight(1),
        peakOpeningForce: opening(1, 0.25),
      },
    },
    {
      key: 'vent',
      ...sizeBy(descentFacts, 'vent'),
      step: 0.05,
      touches: ['Swing', 'Opening'],
      results: {
        descentRate: { exponent: 0.15, doubt: 0.1, because: 'a vent takes drag area away' },
        seaLevelRate: { exponent: 0.15, doubt: 0.1, because: 'a vent takes drag area away' },
        swingAngle: { exponent: -1, doubt: 0.5, because: 'a vent calms the swing' },
        peakOpeningForce: opening(-0.15, 0.15),
      },
    },
    {
      key: 'hung',
      isGiven: true,
      ...sizeBy(descentFacts, 'hung'),
      step: 5,
      touches: ['What the pod may carry'],
      results: { descentRate: weight(0.5), seaLevelRate: weight(0.5), peakOpeningForce: opening(0.2, 0.2) },
    },
  ],
}
