import type { TestPage } from '~/types/api'

/** The test that is being looked at; pages of all six stages read it and refresh it after a change. */
export const useTestStore = defineStore('test', () => {
  const page = ref<TestPage | null>(null)
  const api = useApi()

  let asked = 0
  /** Of two answers that overtake one another, that to the later question stands. */
  async function load(id: number): Promise<TestPage> {
    const mine = ++asked
    const found = await api.get(`/api/tests/${id}`)
    if (mine === asked || !page.value) page.value = found
    return found
  }

  const refresh = () => load(page.value!.test.id)

  /** Something done to this test, after which its page is read anew. */
  async function after<T>(done: Promise<T>): Promise<T> {
    const answer = await done
    await refresh()
    return answer
  }
  const id = () => page.value!.test.id

  return {
    page,
    load,
    refresh,
    releasePlan: (edit: number | null) => after(api.post(`/api/tests/${id()}/plan/release`, { edit })),
    newPlanVersion: (reason: string) => after(api.post(`/api/tests/${id()}/plan/versions`, { reason })),
    plansToStartFrom: () => api.get(`/api/tests/${id()}/plan/start`),
    acceptCandidate: (body: BodyAt<'POST', `/api/tests/${number}/accept`>) =>
      api.post(`/api/tests/${id()}/accept`, body),
  }
})
