import { wordFact, type KnownFact } from '../../register/knownFacts'

/** What counts beside the section and the material that its calculation reads. */
export const staticFacts: readonly KnownFact[] = [
  wordFact('construction', 'Construction', 'comparing revisions', { choices: ['bonded', 'bolted', 'welded', 'wound'] }),
  wordFact('finish', 'Finish', 'comparing revisions', { group: 'Surface' }),
]
