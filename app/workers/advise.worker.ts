import {
  advise,
  chosenCandidate,
  isHypometError,
  sizingOf,
  type Advice,
  type Candidate,
  toRefusal,
  type Refusal,
  type SizingInput,
  type Sizes,
} from '@hypomet/core'

/** What is sized from is sent once, and again when a rule changes; then sizes as often as a slider moves. */
export type AdviseAsk = { id: number } & ({ what: 'advise'; input: SizingInput } | { what: 'at'; sizes: Sizes })
export type AdviseHeard = { id: number } & ({ advice: Advice } | { candidate: Candidate } | { refusal: Refusal })

let held: ReturnType<typeof sizingOf> | null = null
const tell = (heard: AdviseHeard) => self.postMessage(heard)

self.onmessage = ({ data }: MessageEvent<AdviseAsk>) => {
  const { id } = data
  try {
    if (data.what === 'advise') {
      held = sizingOf(data.input)
      return tell({ id, advice: advise(held.asked, held.mass, held.paths) })
    }
    if (held) tell({ id, candidate: chosenCandidate(data.sizes, held.asked, held.mass) })
  } catch (e) {
    if (!isHypometError(e)) throw e
    tell({ id, refusal: toRefusal(e) })
  }
}
