import type { TestPage } from '~/types/api'

/** The test that is being looked at; pages of all six stages read it and refresh it after a change. */
export const useTestStore = defineStore('test', () => {
  const page = ref<TestPage | null>(null)
  const api = useApi()

  async function load(id: number): Promise<TestPage> {
    page.value = await api.get<TestPage>(`/api/tests/${id}`)
    return page.value
  }

  const refresh = () => load(page.value!.test.id)

  return { page, load, refresh }
})
