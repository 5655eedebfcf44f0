import type { FamilySizing } from '../../advise/sizing'

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
      label: 'Fan diameter',
      kind: 'length',
      names: ['fan diameter', 'diameter'],
      step: 0.01,
      mass: { exponent: 3, part: 'fan mass' },
      touches: ['Guard and stand-off', 'Tip speed', 'Current at the same set-point'],
      results: { maxThrust: similar(4, 0.3, 'at one speed'), maxElectricalPower: similar(5, 0.3, 'at one speed') },
    },
    {
      key: 'speed',
      label: 'Top speed',
      kind: 'rotation',
      names: ['top speed'],
      touches: ['Stored energy of the rotor', 'Motor temperature'],
      results: { maxThrust: similar(2, 0.1, 'of one size'), maxElectricalPower: similar(3, 0.15, 'of one size') },
    },
  ],
}
