import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const vibrationFacts: readonly KnownFact[] = [
  sizeFact('mass', 'Mass on the shaker', 'mass', 'the force that the shaker needs', {
    group: 'Other',
    names: ['article mass', 'total mass', 'mass of the article'],
    loading: { shaker: 'articleMass' },
  }),
  sizeFact('bracket', 'Bracket thickness', 'length', 'sizing', { names: ['panel thickness', 'thickness'] }),
  sizeFact('bracketMass', 'Bracket mass', 'mass', 'the mass that a change costs', { group: 'Other' }),
  sizeFact('carried', 'Mass that it carries', 'mass', 'frequencies and sizing', {
    group: 'Other',
    names: ['carried mass'],
  }),
  wordFact('simulators', 'Mass simulators', 'what stands in for parts', {
    group: 'Other',
    names: ['dummies', 'ballast'],
  }),
]
