import {
  isHypometError,
  runCalc,
  runMonteCarlo,
  type MethodOutput,
  toRefusal,
  type Refusal,
  type SampledOutput,
  type Setup,
} from '@hypomet/core'

/** What the page asks, and what it hears: progress now and then, then a result or a refusal. */
export type Ask = { id: number } & (
  | { what: 'calculate'; setup: Setup; bytes: Uint8Array | null }
  | { what: 'draw'; setup: Setup; draws: number; seed: number }
)
export type Heard = { id: number } & (
  { progress: number } | { result: MethodOutput | SampledOutput } | { refusal: Refusal }
)

const tell = (heard: Heard) => self.postMessage(heard)

self.onmessage = ({ data }: MessageEvent<Ask>) => {
  const { id } = data
  try {
    if (data.what === 'calculate') return tell({ id, result: runCalc(data.setup, data.bytes) })
    const progress = (share: number) => {
      tell({ id, progress: share })
      return true
    }
    tell({ id, result: runMonteCarlo(data.setup, { draws: data.draws, seed: data.seed, progress }) })
  } catch (e) {
    if (!isHypometError(e)) throw e
    tell({ id, refusal: toRefusal(e) })
  }
}
