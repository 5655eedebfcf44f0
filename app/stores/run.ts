type Command = BodyAt<'POST', `/api/runs/${number}/command`>

/** Runs and rehearsals of a test: started, commanded, gone on with, closed, and noted upon. */
export const useRunStore = defineStore('run', () => {
  const api = useApi()
  return {
    start: (testId: number, body: BodyAt<'POST', `/api/tests/${number}/runs`>) =>
      api.post(`/api/tests/${testId}/runs`, body),
    rehearse: (testId: number, body: BodyAt<'POST', `/api/tests/${number}/rehearsals`>) =>
      api.post(`/api/tests/${testId}/rehearsals`, body),
    listen: (testId: number, body: BodyAt<'POST', `/api/tests/${number}/stream`>) =>
      api.post(`/api/tests/${testId}/stream`, body),
    command: (runId: number, command: Command) => api.post(`/api/runs/${runId}/command`, command),
    resume: (runId: number) => api.post(`/api/runs/${runId}/resume`),
    close: (runId: number) => api.post(`/api/runs/${runId}/close`),
    strike: (runId: number, strike: BodyAt<'POST', `/api/runs/${number}/strikes`>) =>
      api.post(`/api/runs/${runId}/strikes`, strike),
    note: (runId: number, note: BodyAt<'POST', `/api/runs/${number}/notes`>) =>
      api.post(`/api/runs/${runId}/notes`, note),
  }
})
