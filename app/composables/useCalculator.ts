import { HypometError, type MethodOutput, type SampledOutput, type Setup } from '@hypomet/core'
import type { Ask, Heard } from '~/workers/calculator.worker'

type Question = Ask extends infer A ? (A extends Ask ? Omit<A, 'id'> : never) : never

/** Calculations in a worker of their own, so that the page never waits; one that is stopped ends with its worker. */
export function useCalculator() {
  let worker: Worker | null = null
  let last = 0
  const waiting = new Map<number, { resolve: (result: MethodOutput | SampledOutput) => void; reject: (e: Error) => void; progress?: ((share: number) => void) | undefined }>()

  function started(): Worker {
    if (worker) return worker
    worker = new Worker(new URL('../workers/calculator.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<Heard>) => {
      const asked = waiting.get(data.id)
      if ('progress' in data) return asked?.progress?.(data.progress)
      waiting.delete(data.id)
      if ('result' in data) asked?.resolve(data.result)
      else asked?.reject(new HypometError(data.refusal.code, data.refusal.message, data.refusal.place))
    }
    worker.onerror = () => stop('worker', 'The calculation broke off; this is a fault of Hypomet.')
    return worker
  }

  function ask(question: Question, progress?: (share: number) => void): Promise<MethodOutput | SampledOutput> {
    const id = ++last
    return new Promise((resolve, reject) => {
      waiting.set(id, { resolve, reject, progress })
      started().postMessage({ ...question, id })
    })
  }

  function stop(code = 'cancelled', message = 'The calculation was stopped.'): void {
    worker?.terminate()
    worker = null
    for (const { reject } of waiting.values()) reject(new HypometError(code, message))
    waiting.clear()
  }
  onScopeDispose(() => stop())

  return {
    calculate: (setup: Setup, bytes: Uint8Array | null = null) => ask({ what: 'calculate', setup, bytes }) as Promise<MethodOutput>,
    draw: (setup: Setup, o: { draws: number; seed: number; progress: (share: number) => void }) => ask({ what: 'draw', setup, draws: o.draws, seed: o.seed }, o.progress) as Promise<SampledOutput>,
    stop: () => stop(),
  }
}
