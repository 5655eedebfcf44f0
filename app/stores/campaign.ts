/** What is made on the pages of campaigns and articles. */
export const useCampaignStore = defineStore('campaign', () => {
  const api = useApi()
  const undo = useUndoStore()
  return {
    /** How the campaign's numbers are written, from now on. */
    async writeNumbers(id: number, numbers: 'point' | 'comma' | 'plain'): Promise<void> {
      const { rows } = await api.get('/api/registers/campaign')
      const { version } = rows.find(r => r.id === id)!
      const changes = [{ id, version, values: { numbers } }]
      const { step } = await api.post('/api/registers/campaign', { campaignId: null, changes })
      undo.did(step, 'how numbers are written')
    },
    sample: () => api.get('/api/sample'),
    loadSample: () => api.post('/api/sample'),
    create: (campaign: BodyAt<'POST', '/api/campaigns'>) => api.post('/api/campaigns', campaign),
    createArticle: (article: BodyAt<'POST', '/api/articles'>) => api.post('/api/articles', article),
    createTest: (revisionId: number, test: BodyAt<'POST', `/api/revisions/${number}/tests`>) =>
      api.post(`/api/revisions/${revisionId}/tests`, test),
  }
})
