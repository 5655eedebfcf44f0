import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const transducerFacts: readonly KnownFact[] = [
  sizeFact('elementArea', 'Area of the element', 'area', 'the model of the stack', { names: ['area', 'element area'] }),
  sizeFact('elementThickness', 'Thickness of the element', 'length', 'the model of the stack', {
    names: ['thickness', 'element thickness'],
  }),
  sizeFact('cable', 'Cable', 'length', 'its capacitance', { names: ['cable length'] }),
  wordFact('element', 'Element', 'comparing revisions', { names: ['ceramic'] }),
  wordFact('backing', 'Backing', 'what damps it'),
  wordFact('medium', 'Medium', 'what it works into', { choices: ['water', 'air', 'oil'] }),
]
