import { explain, isHypometError, type Explanation, type Explanations, toRefusal, type Refusal } from '@hypomet/core'

export interface ExplainAsk {
  id: number
  data: { x: number[]; y: number[] }
  explanations: Explanation[]
}
export type ExplainHeard = { id: number } & ({ found: Explanations } | { progress: number } | { refusal: Refusal })

const tell = (heard: ExplainHeard) => self.postMessage(heard)

self.onmessage = ({ data: { id, data, explanations } }: MessageEvent<ExplainAsk>) => {
  try {
    tell({ id, found: explain(data, explanations, share => tell({ id, progress: share })) })
  } catch (e) {
    if (!isHypometError(e)) throw e
    tell({ id, refusal: toRefusal(e) })
  }
}
