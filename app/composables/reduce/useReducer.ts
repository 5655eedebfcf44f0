import {
  answeredError,
  HypometError,
  isHypometError,
  namesAsked,
  type Fact,
  type PlanView,
  type ReducedRecord,
} from '@hypomet/core'
import type { Further, ReducerAsk, ReducerHeard } from '~/workers/reducer.worker'
import { useWorkerCalls } from '../shared/useWorkerCalls'

type Question = ReducerAsk extends infer A ? (A extends ReducerAsk ? Omit<A, 'id'> : never) : never

/**
 * A test's record held in a worker, which reduces it as often as settings change; what is asked while it is at work
 * waits, and only the last of it is done. Records too long to be sent are reduced on the server.
 */
export function useReducer(test: {
  id: number
  family: string
  plan: () => unknown
  view: () => PlanView | null
  facts: () => readonly Fact[]
}) {
  const api = useApi()
  const reduced = shallowRef<ReducedRecord | null>(null)
  const problem = shallowRef<HypometError | null>(null)
  const busy = ref(false)
  /** Channels of the record that no reduction reads by itself. */
  const further = shallowRef<Further[]>([])
  let onServer = false
  /** Names of channels that settings have called for. */
  const called = new Set<string>()
  const { ask } = useWorkerCalls<Question, ReducerHeard>(
    () => new Worker(new URL('../../workers/reducer.worker.ts', import.meta.url), { type: 'module' }),
    'The reduction broke off; this is a fault of Hypomet.',
  )

  /** Fetches the record; what its plan and it propose comes back. */
  async function load(names: readonly string[] = []): Promise<Record<string, unknown>> {
    for (const name of names) called.add(name)
    const query = called.size === 0 ? '' : `?names=${encodeURIComponent([...called].join(','))}`
    const response = await fetch(`/api/tests/${test.id}/table${query}`)
    if (!response.ok) {
      const refused = answeredError((await response.json()) as object, 'The record was not read.')
      if (refused.code !== 'too-large') throw refused
      onServer = true
      return (await api.post(`/api/tests/${test.id}/propose`, {})).settings
    }
    const packed = await response.arrayBuffer()
    // Plans and views are reactive; a message takes plain data.
    const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value ?? null)) as T
    const heard = await ask(
      {
        what: 'load',
        packed,
        family: test.family,
        plan: plain(test.plan()),
        view: plain(test.view()),
        facts: plain(test.facts()),
      },
      { transfer: [packed] },
    )
    if (!('settings' in heard)) return {}
    further.value = heard.further
    return heard.settings
  }

  /** What is proposed for another piece of the record. */
  async function propose(piece: unknown): Promise<Record<string, unknown>> {
    if (onServer) return (await api.post(`/api/tests/${test.id}/propose`, { piece })).settings
    const heard = await ask({ what: 'propose', piece: JSON.parse(JSON.stringify(piece ?? null)) as unknown })
    return 'settings' in heard ? heard.settings : {}
  }

  async function reduceOnce(settings: Record<string, unknown>, shown: string[] | null, quick: boolean): Promise<void> {
    try {
      if (onServer) {
        const answer = await api.post(`/api/tests/${test.id}/reduce`, { settings, keep: false })
        if ('checks' in answer) reduced.value = answer
      } else {
        // A channel that settings call for the first time comes with the record.
        const named = namesAsked(settings)
        const lacking = further.value.filter(c => named.includes(c.symbol) && !called.has(c.symbol))
        if (lacking.length > 0) await load(lacking.map(c => c.symbol))
        const heard = await ask({
          what: 'reduce',
          settings: JSON.parse(JSON.stringify(settings)) as Record<string, unknown>,
          shown,
          quick,
        })
        if ('reduced' in heard) reduced.value = { ...heard.reduced, figures: { ...heard.reduced.figures } }
      }
      problem.value = null
    } catch (e) {
      if (!isHypometError(e)) throw e
      problem.value = e
    }
  }

  let next: [Record<string, unknown>, string[] | null, boolean] | null = null
  /** `quick` while something is dragged: uncertainties go along with their values. */
  async function reduce(settings: Record<string, unknown>, shown: string[] | null, quick = false): Promise<void> {
    next = [settings, shown, quick]
    if (busy.value) return
    busy.value = true
    while (next) {
      const [now, figures, isQuick]: [Record<string, unknown>, string[] | null, boolean] = next
      next = null
      await reduceOnce(now, figures, isQuick)
    }
    busy.value = false
  }

  return { reduced, further, problem, busy: readonly(busy), load, propose, reduce }
}
