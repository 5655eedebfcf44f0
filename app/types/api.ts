import type { campaignPage, listCampaigns } from '../../server/db/campaigns'
import type { previewFile } from '../../server/db/datasets'
import type { testPage } from '../../server/db/tests'
import type { listSensors } from '../../server/db/sensors'

/* What the routes answer; types only, nothing of the server comes along. */
export type CampaignPage = Awaited<ReturnType<typeof campaignPage>>
export type CampaignList = Awaited<ReturnType<typeof listCampaigns>>
export type ArticleView = CampaignPage['articles'][number]
export type RevisionView = ArticleView['revisions'][number]
export type LimitRow = ArticleView['limits'][number]
export type TestPage = Awaited<ReturnType<typeof testPage>>
export type SensorRow = Awaited<ReturnType<typeof listSensors>>[number]
export type FilePreview = { fileName: string; size: number; sha256: string; preview: ReturnType<typeof previewFile> }
export type StageState = TestPage['stages'][number]
