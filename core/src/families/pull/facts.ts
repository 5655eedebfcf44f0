import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const pullFacts: readonly KnownFact[] = [
  sizeFact('referenceStrength', 'Strength when new', 'force', 'the strength that is left, wear and the first ladder', {
    group: 'Other',
    names: ['strength new', 'rated strength', 'new strength', 'breaking load when new'],
    plan: ['referenceStrength'],
    settings: ['referenceStrength'],
  }),
  sizeFact('wear', 'Wear', 'ratio', 'strength over wear', {
    group: 'Other',
    names: ['wear of this specimen'],
    plan: ['wear'],
    mayBeZero: true,
  }),
  sizeFact('length', 'Length', 'length', 'stretch and what can fly', { loading: { pull: 'lineLength' } }),
  sizeFact('width', 'Webbing width', 'length', 'sizing the width', { names: ['width', 'tape width'] }),
  sizeFact('section', 'Cross-section', 'area', 'sizing the section', { names: ['section', 'area'] }),
  sizeFact('layers', 'Layers', 'ratio', 'sizing the layers', { names: ['strands', 'plies'] }),
  wordFact('material', 'Material', 'comparing revisions', { names: ['webbing', 'rope', 'fibre'] }),
  wordFact('construction', 'Construction', 'what a change may be', {
    group: 'Process',
    names: ['make', 'termination', 'end'],
    choices: ['woven', 'spliced', 'sewn', 'knotted', 'braided', 'swaged'],
  }),
]
