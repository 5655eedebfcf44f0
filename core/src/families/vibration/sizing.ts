import type { FamilySizing } from '../../advise/sizing'

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
      label: 'Bracket thickness',
      kind: 'length',
      names: ['bracket thickness', 'panel thickness', 'thickness'],
      step: 0.0005,
      mass: { exponent: 1, part: 'bracket mass' },
      touches: ['Bolts: longer', 'Other modes of the bracket'],
      results: { firstFrequency: bending, frequencyMargin: bending },
    },
    {
      key: 'carried',
      isGiven: true,
      label: 'Mass that it carries',
      kind: 'mass',
      names: ['carried mass'],
      step: 0.5,
      mass: { exponent: 1, part: 'carried mass' },
      touches: ['What is inside'],
      results: { firstFrequency: carried, frequencyMargin: carried },
    },
  ],
  bases: () => ({ frequencyMargin: -1 }),
}
