type Of<Action extends string> = BodyAt<'POST', `/api/datasets/${number}/${Action}`>

/** What is asked of a record and done to it. */
export const useRecordStore = defineStore('record', () => {
  const api = useApi()
  return {
    steps: (id: number, asked: Of<'steps'>) => api.post(`/api/datasets/${id}/steps`, asked),
    setClock: (id: number, offset: number) => api.put(`/api/datasets/${id}/clock`, { offset }),
    align: (id: number, asked: Of<'align'>) => api.post(`/api/datasets/${id}/align`, asked),
    checkHealth: (id: number, thresholds: Of<'health'>) => api.post(`/api/datasets/${id}/health`, thresholds),
    select: (id: number, stretch: Of<'selection'>) => api.post(`/api/datasets/${id}/selection`, stretch),
    addPair: (id: number, pair: Of<'pairs'>) => api.post(`/api/datasets/${id}/pairs`, pair),
    removePair: (pairId: number) => api.remove(`/api/pairs/${pairId}`),
    derive: (id: number, asked: Of<'derived'>) => api.post(`/api/datasets/${id}/derived`, asked),
    dependents: (id: number) => api.get(`/api/datasets/${id}/dependents`),
    remove: (id: number) => api.remove(`/api/datasets/${id}`),
    /** Says anew what a channel is; what rests on it is worked out anew. */
    mend: (channelId: number, what: BodyAt<'PUT', `/api/channels/${number}`>) =>
      api.put(`/api/channels/${channelId}`, what),
    readAgain: (id: number, said: BodyAt<'PUT', `/api/datasets/${number}/reading`>) =>
      api.put(`/api/datasets/${id}/reading`, said),
    removeChannel: (channelId: number) => api.remove(`/api/channels/${channelId}`),
  }
})
