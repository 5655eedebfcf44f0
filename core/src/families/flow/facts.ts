import { sizeFact, wordFact, type KnownFact } from '../../register/knownFacts'

export const flowFacts: readonly KnownFact[] = [
  sizeFact('throat', 'Throat', 'length', 'sizing', {
    names: ['throat diameter', 'port diameter', 'bore', 'seat throat'],
  }),
  sizeFact('valve', 'Valve diameter', 'length', 'flow coefficients, lift over diameter and sizing', {
    names: ['valve', 'head diameter'],
    loading: { flow: 'diameter' },
    settings: ['valveDiameter'],
  }),
  sizeFact('valves', 'Valves', 'ratio', 'the area that flows', {
    names: ['number of valves'],
    loading: { flow: 'valves' },
    settings: ['valves'],
  }),
  sizeFact('highestLift', 'Highest lift', 'length', 'the range of lifts', {
    names: ['full lift', 'valve lift', 'maximum lift'],
  }),
  wordFact('make', 'Made by', 'comparing revisions', { group: 'Process', names: ['runner', 'process'] }),
]
