import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const torqueFacts: readonly KnownFact[] = [
  sizeFact('diameter', 'Shaft diameter', 'length', 'sizing', { names: ['diameter'] }),
  sizeFact('fillet', 'Fillet radius', 'length', 'the notch and sizing', { names: ['fillet'] }),
  sizeFact('length', 'Length', 'length', 'stiffness', { names: ['shaft length', 'twisted length'] }),
  sizeFact('requiredTorque', 'Required torque', 'torque', 'the factor', {
    group: 'Other',
    names: ['service torque', 'design torque'],
    plan: ['requiredTorque'],
    settings: ['requiredTorque'],
  }),
  wordFact('material', 'Material', 'comparing revisions', { names: ['steel', 'alloy'] }),
  wordFact('temper', 'Temper', 'comparing revisions', { group: 'Heat treatment', names: ['heat treatment'] }),
  wordFact('surface', 'Surface', 'comparing revisions', { group: 'Surface', names: ['shot-peening', 'finish'] }),
]
