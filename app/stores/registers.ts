type Batch = BodyAt<'POST', '/api/registers/limit'>
type Replacement = BodyAt<'POST', `/api/constants/${number}/replace`>

/** Rows of registers: written in one step each, their history, and what follows when a constant changes. */
export const useRegistersStore = defineStore('registers', () => {
  const api = useApi()
  return {
    write: (register: string, batch: Batch) => api.post(`/api/registers/${register}`, batch),
    history: (register: string, id: number) => api.get(`/api/registers/${register}/history`, { id }),
    movedBy: (constantId: number, replacement: Replacement['replacement']) =>
      api.post(`/api/constants/${constantId}/moved`, replacement),
    replaceConstant: (constantId: number, replacement: Replacement) =>
      api.post(`/api/constants/${constantId}/replace`, replacement),
    resize: (constantId: number, revisionIds: number[]) =>
      api.post(`/api/constants/${constantId}/resize`, { revisionIds }),
  }
})
