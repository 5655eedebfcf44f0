import { fromRefusal, HypometError, type ErrorCode, type Refusal } from '@hypomet/core'

type Answer = { id: number } & ({ progress: number } | { refusal: Refusal } | object)

/**
 * Questions to a worker of its own, each answered by its number. It is started by the first question, and ends with the
 * page that asked or when it is stopped; what waits then is refused.
 *
 * @param make  a new worker
 * @param broken  what is said where it breaks off
 */
export function useWorkerCalls<Ask extends object, Heard>(make: () => Worker, broken: string) {
  let worker: Worker | null = null
  let last = 0
  const waiting = new Map<
    number,
    { resolve: (heard: Heard) => void; reject: (e: Error) => void; progress?: ((share: number) => void) | undefined }
  >()

  function started(): Worker {
    if (worker) return worker
    worker = make()
    worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      const asked = waiting.get(data.id)
      if ('progress' in data) return asked?.progress?.(data.progress)
      waiting.delete(data.id)
      if ('refusal' in data) asked?.reject(fromRefusal(data.refusal))
      else asked?.resolve(data as Heard)
    }
    worker.onerror = () => stop('worker-lost', broken)
    return worker
  }

  function ask(
    question: Ask,
    { transfer = [], progress }: { transfer?: Transferable[]; progress?: (share: number) => void } = {},
  ): Promise<Heard> {
    const id = ++last
    return new Promise((resolve, reject) => {
      waiting.set(id, { resolve, reject, progress })
      started().postMessage({ ...question, id }, transfer)
    })
  }

  function stop(code: ErrorCode = 'cancelled', message = 'The calculation was stopped.'): void {
    worker?.terminate()
    worker = null
    for (const { reject } of waiting.values()) reject(new HypometError(code, message))
    waiting.clear()
  }
  onScopeDispose(() => stop())

  return { ask, stop: () => stop() }
}
