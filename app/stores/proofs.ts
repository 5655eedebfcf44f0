/** What is stored, held against what was written down; and its backups. */
export const useProofsStore = defineStore('proofs', () => {
  const api = useApi()
  return {
    verify: (asked: BodyAt<'POST', '/api/proofs/verify'>) => api.post('/api/proofs/verify', asked),
    backup: () => api.post('/api/proofs/backup'),
  }
})
