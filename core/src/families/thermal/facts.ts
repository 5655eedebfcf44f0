import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const thermalFacts: readonly KnownFact[] = [
  sizeFact('sink', 'Sink area', 'area', 'sizing the sink', { names: ['surface', 'area', 'cooled area'] }),
  sizeFact('sinkMass', 'Sink mass', 'mass', 'the mass that a change costs', { group: 'Other' }),
  sizeFact('losses', 'Losses', 'power', 'heating as in service and derating', {
    group: 'Other',
    names: ['heat', 'dissipated power', 'rated losses'],
  }),
  sizeFact('limit', 'Not above', 'temperature', 'the allowed power', {
    group: 'Other',
    names: ['highest temperature', 'temperature limit', 'hot spot limit'],
    plan: ['limit'],
    settings: ['limit'],
  }),
  wordFact('finish', 'Finish', 'radiation', { group: 'Surface', choices: ['bare', 'anodised', 'painted'] }),
]
