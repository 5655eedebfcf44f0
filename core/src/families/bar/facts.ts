import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const barFacts: readonly KnownFact[] = [
  sizeFact('specimenArea', 'Area of the specimen', 'area', 'stress', {
    names: ['area', 'specimen area', 'area of the specimen, or of all ligaments'],
    plan: ['specimenArea'],
    settings: ['specimenArea'],
  }),
  sizeFact('specimenLength', 'Length of the specimen', 'length', 'strain and strain rate', {
    names: ['length', 'specimen length', 'gauge length'],
    plan: ['specimenLength'],
    settings: ['specimenLength'],
  }),
  wordFact('material', 'Material', 'constants of the campaign', { names: ['alloy', 'steel'] }),
]
