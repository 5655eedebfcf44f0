import {
  isHypometError,
  type Advice,
  type Candidate,
  type HypometError,
  type SizingInput,
  type SizingRulesInput,
  type Sizes,
} from '@hypomet/core'
import type { AdviseAsk, AdviseHeard } from '~/workers/advise.worker'
import { useWorkerCalls } from '../shared/useWorkerCalls'

type Question = AdviseAsk extends infer A ? (A extends AdviseAsk ? Omit<A, 'id'> : never) : never

/** Advice for a test's revision, worked out in a worker: candidates by the rules, and any sizes at once. */
export function useAdvice(testId: number) {
  const api = useApi()
  const input = shallowRef<SizingInput | null>(null)
  const specimens = ref(0)
  const advice = shallowRef<Advice | null>(null)
  const chosen = shallowRef<Candidate | null>(null)
  const problem = shallowRef<HypometError | null>(null)
  const busy = ref(false)
  const { ask } = useWorkerCalls<Question, AdviseHeard>(
    () => new Worker(new URL('../../workers/advise.worker.ts', import.meta.url), { type: 'module' }),
    'The sizing broke off; this is a fault of Hypomet.',
  )

  async function caught(work: () => Promise<void>): Promise<void> {
    try {
      await work()
      problem.value = null
    } catch (e) {
      if (!isHypometError(e)) throw e
      problem.value = e
    }
  }

  /** Fetches what is sized from; it is sized by the rules that stand. */
  const load = (from: 'test' | 'revision', rules: SizingRulesInput | null) =>
    caught(async () => {
      busy.value = true
      const got = await api.get(`/api/tests/${testId}/sizing?from=${from}`)
      input.value = got.input
      specimens.value = got.specimens
      await size(rules ?? got.input.rules)
    }).finally(() => {
      busy.value = false
    })

  async function size(rules: SizingRulesInput): Promise<void> {
    if (!input.value) return
    input.value = { ...input.value, rules: JSON.parse(JSON.stringify(rules)) as SizingRulesInput }
    const heard = await ask({ what: 'advise', input: input.value })
    if ('advice' in heard) advice.value = heard.advice
    if (chosen.value) void at(chosen.value.sizes)
  }
  const resize = (rules: SizingRulesInput) => caught(() => size(rules))

  let next: Sizes | null = null
  let isAsking = false
  /** All results at other sizes; of those that come while it is at work only the last is done. */
  async function at(sizes: Sizes): Promise<void> {
    next = { ...sizes }
    if (isAsking) return
    isAsking = true
    try {
      while (next) {
        const now: Sizes = next
        next = null
        const heard = await ask({ what: 'at', sizes: now })
        if ('candidate' in heard) chosen.value = heard.candidate
      }
    } catch (e) {
      if (!isHypometError(e)) throw e
      problem.value = e
    } finally {
      isAsking = false
    }
  }

  return { input, specimens, advice, chosen, problem, busy: readonly(busy), load, resize, at }
}
