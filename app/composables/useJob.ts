import { HypometError } from '@hypomet/core'

interface JobState<T> {
  status: string
  progress: number
  doing: string
  result: T | null
  error: { code: string; message: string; place: object } | null
}

/** Follows a job to its end, with what it is doing, and can stop it. */
export function useJob() {
  const api = useApi()
  const doing = ref<{ job: number; share: number; text: string } | null>(null)
  /** @throws HypometError as the job was refused, or `cancelled` */
  async function follow<T>(jobId: number, interval = 120): Promise<T> {
    try {
      for (;;) {
        const state = await api.get<JobState<T>>(`/api/jobs/${jobId}`)
        doing.value = { job: jobId, share: state.progress, text: state.doing }
        if (state.status === 'done') return state.result as T
        if (state.status !== 'running')
          throw new HypometError(state.error!.code, state.error!.message, state.error!.place)
        await new Promise(resolve => setTimeout(resolve, interval))
      }
    } finally {
      doing.value = null
    }
  }
  const stop = () => doing.value && void api.post(`/api/jobs/${doing.value.job}/stop`)
  return { doing, follow, stop }
}
