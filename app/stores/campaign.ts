/** What is made on the pages of campaigns and articles. */
export const useCampaignStore = defineStore('campaign', () => {
  const api = useApi()
  return {
    create: (campaign: BodyAt<'POST', '/api/campaigns'>) => api.post('/api/campaigns', campaign),
    createArticle: (article: BodyAt<'POST', '/api/articles'>) => api.post('/api/articles', article),
    createTest: (revisionId: number, test: BodyAt<'POST', `/api/revisions/${number}/tests`>) =>
      api.post(`/api/revisions/${revisionId}/tests`, test),
  }
})
