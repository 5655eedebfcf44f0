import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const crushFacts: readonly KnownFact[] = [
  sizeFact('wall', 'Wall thickness', 'length', 'the section that crushes and sizing', {
    names: ['wall'],
    plan: ['wall'],
  }),
  sizeFact('diameter', 'Diameter', 'length', 'sizing', { names: ['mean diameter', 'outer diameter'] }),
  sizeFact('length', 'Length', 'length', 'the stroke as a share of it', {
    names: ['length of the article', 'free length'],
    plan: ['length'],
    settings: ['length'],
  }),
  sizeFact('linearMass', 'Mass per length', 'massPerLength', 'specific energy', {
    group: 'Other',
    names: ['linear mass', 'mass a metre'],
    plan: ['linearMass'],
    settings: ['linearMass'],
  }),
  wordFact('material', 'Material', 'comparing revisions', { names: ['braid', 'lay-up'] }),
  wordFact('trigger', 'Trigger', 'comparing revisions', { group: 'Process', choices: ['chamfer', 'tulip', 'none'] }),
]
