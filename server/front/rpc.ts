import { fromRefusal, isHypometError, toRefusal, type Refusal } from '@hypomet/core'

/** One end of a line between two processes. */
export interface Line {
  send(message: unknown): void
  onMessage(hear: (message: unknown) => void): void
  onLost(lost: () => void): void
}

type Message =
  | { ask: number; name: string; args: unknown[] }
  | { answer: number; value: unknown }
  | { answer: number; refusal: Refusal | null; problem: string }

/** What may be asked at an end, by name. */
export type Answers<T> = { [K in keyof T]: T[K] extends (...args: infer A) => infer R ? (...args: A) => R : never }
type Asked<T> = {
  [K in keyof T]: T[K] extends (...args: infer A) => infer R ? (...args: A) => Promise<Awaited<R>> : never
}

/**
 * Questions and answers between two processes; refusals come back as errors of the house. What is asked while the line
 * is lost, or before it is there, is refused at once.
 *
 * @returns what can be asked of the other end
 */
export function talk<Theirs extends object, Ours extends object>(line: Line, ours: Ours): Asked<Theirs> {
  const waiting = new Map<number, { resolve(value: unknown): void; reject(e: unknown): void }>()
  let last = 0
  let isLost = false
  line.onMessage(m => void hear(m as Message))
  line.onLost(() => {
    isLost = true
    for (const w of waiting.values()) w.reject(new Error('the other process is gone'))
    waiting.clear()
  })

  async function hear(m: Message): Promise<void> {
    if ('ask' in m) return answer(m)
    const w = waiting.get(m.answer)
    waiting.delete(m.answer)
    if ('value' in m) w?.resolve(m.value)
    else w?.reject(m.refusal ? fromRefusal(m.refusal) : new Error(m.problem))
  }

  async function answer({ ask, name, args }: Extract<Message, { ask: number }>): Promise<void> {
    const say = (m: Message) => isLost || line.send(m)
    try {
      const does = ours[name as keyof Ours] as (...all: unknown[]) => unknown
      say({ answer: ask, value: await does.apply(ours, args) })
    } catch (e) {
      say({ answer: ask, refusal: isHypometError(e) ? toRefusal(e) : null, problem: String(e) })
    }
  }

  return new Proxy({} as Asked<Theirs>, {
    get:
      (_, name) =>
      (...args: unknown[]) =>
        new Promise((resolve, reject) => {
          if (isLost) return reject(new Error('the other process is gone'))
          waiting.set(++last, { resolve, reject })
          line.send({ ask: last, name: String(name), args } satisfies Message)
        }),
  })
}
