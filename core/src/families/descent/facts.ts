import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const descentFacts: readonly KnownFact[] = [
  sizeFact('area', 'Canopy area', 'area', 'drag coefficient, expected rate and sizing', {
    names: ['area', 'reference area', 'nominal area'],
    plan: ['referenceArea'],
    settings: ['referenceArea'],
  }),
  sizeFact('mass', 'Mass that descends', 'mass', 'drag area and expected rate', {
    group: 'Other',
    names: ['descending mass', 'total mass', 'suspended mass'],
    plan: ['mass'],
    settings: ['mass'],
  }),
  sizeFact('hung', 'Mass that hangs', 'mass', 'sizing by the load', {
    group: 'Other',
    names: ['hung mass', 'cargo mass'],
  }),
  sizeFact('vent', 'Vent', 'length', 'swing and sizing', {
    names: ['vent diameter', 'crown vent'],
    plan: ['vent'],
    mayBeZero: true,
  }),
  sizeFact('dragCoefficient', 'Drag coefficient', 'ratio', 'the expected rate and the landing area', {
    group: 'Other',
    names: ['drag coefficient as designed', 'cd'],
    loading: { canopy: 'dragCoefficient' },
  }),
  sizeFact('lines', 'Lines', 'ratio', 'comparing revisions', { names: ['number of lines', 'gores'] }),
  sizeFact('lineLength', 'Line length', 'length', 'inflation distance', { names: ['length of the lines'] }),
  wordFact('packing', 'Packing', 'comparing revisions', { group: 'Process', names: ['packed'] }),
  wordFact('fabric', 'Fabric', 'comparing revisions'),
]
