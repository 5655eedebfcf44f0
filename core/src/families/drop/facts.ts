import { sizeFact, type KnownFact } from '../../register/knownFacts'

export const dropFacts: readonly KnownFact[] = [
  sizeFact('mass', 'Falling mass', 'mass', 'the energy of the fall', {
    group: 'Other',
    names: ['drop mass', 'total mass', 'mass that falls'],
    loading: { drop: 'mass' },
    settings: ['mass'],
  }),
  sizeFact('wall', 'Wall of the buffer', 'length', 'sizing the absorber', {
    names: ['buffer wall', 'wall thickness', 'wall', 'absorber wall'],
  }),
  sizeFact('bufferMass', 'Buffer mass', 'mass', 'the mass that a change costs', { group: 'Other' }),
  sizeFact('stroke', 'Space to crush', 'length', 'the stroke that is left', {
    names: ['stroke', 'crush space', 'available stroke'],
    loading: { drop: 'stroke' },
  }),
  sizeFact('height', 'Drop height', 'length', 'speed, energy and sizing', { names: ['height of the drop'] }),
  sizeFact('size', 'Height of the article', 'length', 'the drawing', {
    names: ['article height'],
    loading: { drop: 'size' },
  }),
]
