import type { FamilySizing } from '../../advise/sizing'

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
      label: 'Canopy area',
      kind: 'area',
      names: ['area', 'canopy area', 'reference area'],
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
      label: 'Vent',
      kind: 'length',
      names: ['vent', 'vent diameter'],
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
      label: 'Mass that hangs',
      kind: 'mass',
      names: ['hung mass', 'cargo mass'],
      step: 5,
      touches: ['What the pod may carry'],
      results: { descentRate: weight(0.5), seaLevelRate: weight(0.5), peakOpeningForce: opening(0.2, 0.2) },
    },
  ],
}
