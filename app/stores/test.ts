import { asBulk } from '~/composables/shared/bulk'
import type { TestPage } from '~/types/api'

/** The test that is being looked at; pages of all six stages read it and refresh it after a change. */
export const useTestStore = defineStore('test', () => {
  // Replaced as a whole, never written to: a plan may have thousands of channels.
  const page = shallowRef<TestPage | null>(null)
  const api = useApi()

  let asked = 0
  /** Of two answers that overtake one another, that to the later question stands. */
  async function load(id: number): Promise<TestPage> {
    const mine = ++asked
    const found = await api.get(`/api/tests/${id}`)
    if (mine === asked || !page.value) page.value = asBulk(found)
    return found
  }

  const refresh = () => load(page.value!.test.id)
  const leave = () => void (page.value = null)

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
    leave,
    releasePlan: (edit: number | null) => after(api.post(`/api/tests/${id()}/plan/release`, { edit })),
    newPlanVersion: (reason: string) => after(api.post(`/api/tests/${id()}/plan/versions`, { reason })),
    /** Its page is read anew by whoever saves: other things are done once the edit is known. */
    savePlan: (plan: Record<string, unknown>, edit: number) => api.put(`/api/tests/${id()}/plan`, { plan, edit }),
    keepReduction: (settings: Record<string, unknown>, looked: string[]) =>
      after(api.post(`/api/tests/${id()}/reduce`, { settings, keep: true, looked })),
    judge: (judgement: BodyAt<'POST', `/api/tests/${number}/judge`>) =>
      after(api.post(`/api/tests/${id()}/judge`, judgement)),
    evidence: () => api.get(`/api/tests/${id()}/evidence`),
    keepSizing: (rules: BodyAt<'PUT', `/api/articles/${number}/sizing`>) =>
      api.put(`/api/articles/${page.value!.article.id}/sizing`, rules),
    mark: (item: BodyAt<'PUT', `/api/tests/${number}/ready`>) => after(api.put(`/api/tests/${id()}/ready`, item)),
    tryOutput: (index: number) => after(api.post(`/api/tests/${id()}/try-output`, { index })),
    plansToStartFrom: () => api.get(`/api/tests/${id()}/plan/start`),
    acceptCandidate: (body: BodyAt<'POST', `/api/tests/${number}/accept`>) =>
      api.post(`/api/tests/${id()}/accept`, body),
  }
})
