import type { MethodOutput, SampledOutput, Setup } from '@hypomet/core'
import type { Ask } from '~/workers/calculator.worker'
import { useWorkerCalls } from '../shared/useWorkerCalls'

type Question = Ask extends infer A ? (A extends Ask ? Omit<A, 'id'> : never) : never

/** Calculations in a worker of their own, so that the page never waits; one that is stopped ends with its worker. */
export function useCalculator() {
  const { ask, stop } = useWorkerCalls<Question, { result: MethodOutput | SampledOutput }>(
    () => new Worker(new URL('../../workers/calculator.worker.ts', import.meta.url), { type: 'module' }),
    'The calculation broke off; this is a fault of Hypomet.',
  )
  return {
    calculate: async (setup: Setup, bytes: Uint8Array | null = null) =>
      (await ask({ what: 'calculate', setup, bytes })).result as MethodOutput,
    draw: async (setup: Setup, o: { draws: number; seed: number; progress: (share: number) => void }) =>
      (await ask({ what: 'draw', setup, draws: o.draws, seed: o.seed }, { progress: o.progress }))
        .result as SampledOutput,
    stop,
  }
}
