/** Files and pictures that belong to a row; small pictures are made by the browser. */
export const useAttachmentsStore = defineStore('attachments', () => {
  const api = useApi()
  const upload = useUpload()

  async function attach(
    to: { entity: string; id: number; tag?: string | undefined },
    file: File,
    progress: (share: number) => void = () => {},
  ) {
    const query = new URLSearchParams({ entity: to.entity, id: String(to.id), ...(to.tag && { tag: to.tag }) })
    const made = await upload.send<AnswerAt<'POST', '/api/attachments'>>(`/api/attachments?${query}`, file, progress)
    const small = await thumbnailOf(file)
    if (small) await api.put(`/api/attachments/${made.id}/thumbnail`, small)
    return made
  }

  return {
    of: (entity: string, id: number) => api.get('/api/attachments', { entity, id }),
    attach,
    remove: (id: number) => api.remove(`/api/attachments/${id}`),
  }
})
