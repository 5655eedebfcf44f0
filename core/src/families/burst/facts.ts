import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const burstFacts: readonly KnownFact[] = [
  sizeFact('radius', 'Radius', 'length', 'line loads, the drawing and sizing', {
    names: ['inner radius', 'vessel radius'],
    plan: ['radius'],
    loading: { vessel: 'radius' },
    settings: ['radius'],
  }),
  sizeFact('volume', 'Volume', 'volume', 'stored energy, stand-off and the leak in litres', {
    names: ['inner volume', 'capacity'],
    loading: { vessel: 'volume' },
    settings: ['volume'],
  }),
  sizeFact('length', 'Length', 'length', 'growth and the drawing', { names: ['length between the ends'] }),
  sizeFact('wall', 'Wall thickness', 'length', 'sizing the wall', {
    names: ['wall', 'fabric thickness', 'thickness'],
  }),
  sizeFact('ratedPressure', 'Rated pressure', 'pressure', 'the burst factor', {
    group: 'Other',
    names: ['working pressure', 'service pressure', 'design pressure'],
    plan: ['ratedPressure'],
    loading: { vessel: 'ratedPressure' },
    settings: ['ratedPressure'],
  }),
  sizeFact('yarnStrength', 'Yarn strength', 'force', 'woven line strength', {
    group: 'Material',
    names: ['strength of a yarn'],
  }),
  sizeFact('yarnPitch', 'Yarn pitch', 'length', 'woven line strength', {
    names: ['pitch', 'pitch of the yarns'],
  }),
  sizeFact('layers', 'Layers', 'ratio', 'woven line strength', { names: ['plies'] }),
  wordFact('material', 'Material', 'comparing revisions', { names: ['fabric', 'shell'] }),
  wordFact('seam', 'Seam', 'comparing revisions', { group: 'Process', names: ['seam press', 'seam by'] }),
]
