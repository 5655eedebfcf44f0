import type { DeclaredOwn, Figure } from '@hypomet/core'

/** Figures kept with reductions, fetched when they are first seen: they are long, and never change. */
export const useReductionStore = defineStore('reduction', () => {
  const figures = shallowRef<Readonly<Record<number, Record<string, Figure>>>>({})
  const api = useApi()

  async function load(id: number): Promise<void> {
    if (figures.value[id]) return
    const found = await api.get(`/api/reductions/${id}/figures`)
    figures.value = { ...figures.value, [id]: found }
  }

  return {
    figures,
    load,
    gauges: (testId: number) => api.get(`/api/tests/${testId}/gauges`),
    nameGauge: (testId: number, gauge: BodyAt<'PUT', `/api/tests/${number}/gauges`>) =>
      api.put(`/api/tests/${testId}/gauges`, gauge),
    /** Results that an article has of its own. */
    declareOwn: (articleId: number, own: readonly DeclaredOwn[]) =>
      api.put(`/api/articles/${articleId}/own`, { own: own.map(o => ({ ...o })) }),
    specimens: (testId: number) => api.get(`/api/tests/${testId}/specimens`),
    /** Tests of the same article that the same settings could reduce. */
    similar: (testId: number) => api.get(`/api/tests/${testId}/twins`),
    reduceSimilar: (testId: number, asked: BodyAt<'POST', `/api/tests/${number}/reduce-twins`>) =>
      api.post(`/api/tests/${testId}/reduce-twins`, asked),
  }
})
