import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const bucklingFacts: readonly KnownFact[] = [
  sizeFact('radius', 'Radius', 'length', 'line loads and the perfect shell', {
    plan: ['radius'],
    settings: ['radius'],
  }),
  sizeFact('wall', 'Wall thickness', 'length', 'the perfect shell and sizing', {
    names: ['wall', 'thickness', 'skin'],
    plan: ['thickness'],
    settings: ['thickness'],
  }),
  sizeFact('length', 'Length', 'length', 'the perfect shell', { plan: ['length'], settings: ['length'] }),
  sizeFact('modulus', 'Modulus', 'pressure', 'the perfect shell', {
    group: 'Material',
    names: ['young’s modulus', "young's modulus", 'elastic modulus'],
    plan: ['modulus'],
    settings: ['modulus'],
  }),
  sizeFact('poisson', 'Poisson’s ratio', 'ratio', 'the perfect shell', {
    group: 'Material',
    names: ["poisson's ratio", 'poisson'],
    plan: ['poisson'],
    settings: ['poisson'],
    mayBeZero: true,
  }),
  sizeFact('density', 'Density', 'density', 'efficiency', {
    group: 'Material',
    plan: ['density'],
    settings: ['density'],
  }),
  sizeFact('innerPressure', 'Inner pressure', 'pressure', 'what holds the wall up', {
    group: 'Other',
    plan: ['innerPressure'],
    mayBeZero: true,
  }),
  wordFact('material', 'Material', 'comparing revisions', { names: ['steel', 'alloy'] }),
  wordFact('seam', 'Seam', 'comparing revisions', { group: 'Process' }),
]
