import { personRegister } from '@hypomet/core'

/** What is asked whatever page is open: who works here, what there is, and what holds some words. */
export const useSessionStore = defineStore('session', () => {
  const api = useApi()
  return {
    people: async () => (await api.get(`/api/registers/${personRegister.id}`)).rows.map(r => String(r.name)),
    names: () => api.get('/api/index'),
    search: (words: string) => api.get('/api/search', { q: words }),
  }
})
