import { fromRefusal, HypometError, type Refusal } from '@hypomet/core'

interface JobState<T> {
  status: string
  progress: number
  doing: string
  result: T | null
  error: Refusal | null
}

/** Follows a job to its end, with what it is doing, and can stop it. */
export function useJob() {
  const api = useApi()
  const doing = ref<{ job: number; share: number; text: string } | null>(null)
  /** @throws HypometError as the job was refused, or `cancelled` */
  async function follow<T>(jobId: number): Promise<T> {
    try {
      const state = await stateAtEnd<T>(jobId, ({ progress, doing: text }) => {
        doing.value = { job: jobId, share: progress, text }
      })
      if (state.status === 'done') return state.result as T
      throw fromRefusal(state.error!)
    } finally {
      doing.value = null
    }
  }
  const stop = () => doing.value && void api.post(`/api/jobs/${doing.value.job}/stop`)
  return { doing, follow, stop }
}

/** Listens until the job has ended; a connection that breaks is taken up again by the browser. */
function stateAtEnd<T>(jobId: number, step: (state: JobState<T>) => void): Promise<JobState<T>> {
  return new Promise((resolve, reject) => {
    const source = new EventSource(`/api/jobs/${jobId}/events`)
    source.onmessage = ({ data }) => {
      const state = JSON.parse(data as string) as JobState<T>
      step(state)
      if (state.status === 'running') return
      source.close()
      resolve(state)
    }
    source.onerror = () => {
      if (source.readyState !== EventSource.CLOSED) return
      reject(new HypometError('unreachable', 'Hypomet’s server does not answer. The job goes on there; look again.'))
    }
  })
}
