import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const couponFacts: readonly KnownFact[] = [
  sizeFact('width', 'Width', 'length', 'stress', { plan: ['width'] }),
  sizeFact('thickness', 'Thickness', 'length', 'stress', { plan: ['thickness'] }),
  sizeFact('diameter', 'Pin', 'length', 'bearing stress', {
    names: ['pin diameter', 'hole'],
    plan: ['diameter'],
    settings: ['diameter'],
  }),
  sizeFact('span', 'Span', 'length', 'stress in flexure', { plan: ['span'], settings: ['span'] }),
  wordFact('material', 'Material', 'constants of the campaign', { names: ['laminate', 'resin'] }),
]
