import { FILE_HEAD } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

type Look = BodyAt<'POST', `/api/tests/${number}/look`>
type Import = BodyAt<'POST', `/api/tests/${number}/imports`>

/** Files on their way into a test: looked at by their beginning, sent, and imported as a job. */
export const useImportingStore = defineStore('importing', () => {
  const api = useApi()
  const { send, abort } = useUpload()
  return {
    /** What a file holds before it belongs to any test: from its beginning, or from all of it where that is needed. */
    async glance(file: File) {
      const { preview } = await api.upload('/api/files/preview', new File([file.slice(0, FILE_HEAD)], file.name))
      return preview ?? (await send<FilePreview>('/api/files', file, () => {})).preview
    },
    preview: (testId: number, beginning: File, said: Record<string, string>) =>
      api.upload(
        `/api/tests/${testId}/preview?${new URLSearchParams(said)}` as `/api/tests/${number}/preview`,
        beginning,
      ),
    look: (testId: number, asked: Look) => api.post(`/api/tests/${testId}/look`, asked),
    send: (testId: number, file: File, progress: (share: number) => void = () => {}) =>
      send<FilePreview>(`/api/tests/${testId}/files`, file, progress),
    abort,
    start: (testId: number, body: Import) => api.post(`/api/tests/${testId}/imports`, body),
  }
})
