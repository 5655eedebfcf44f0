import type { benchPage } from '../../server/db/campaigns/bench'
import type { articlePage, campaignPage, listCampaigns } from '../../server/db/campaigns/campaigns'
import type { previewFile, sameBytes } from '../../server/db/records/datasets'
import type { comparable, comparedOf } from '../../server/db/results/compare'
import type { namesOf } from '../../server/db/campaigns/names'
import type { learningOf } from '../../server/db/campaigns/learning'
import type { dependentsOf, recordPage } from '../../server/db/records/records'
import type { derive } from '../../server/jobs/derive'
import type { Selected as SelectedOf } from '../../server/jobs/selection'
import type { align } from '../../server/jobs/together'
import type { RecordStrip as RecordStripOf } from '../../server/db/records/samples'
import type { specimensOf } from '../../server/db/articles/specimens'
import type { testPage } from '../../server/db/tests/tests'
import type { listSensors } from '../../server/db/registers/inventory'

/* What the routes answer; types only, nothing of the server comes along. */
export type BenchPage = Awaited<ReturnType<typeof benchPage>>
export type ArticlePage = Awaited<ReturnType<typeof articlePage>>
export type CampaignPage = Awaited<ReturnType<typeof campaignPage>>
export type CampaignList = Awaited<ReturnType<typeof listCampaigns>>
export type Names = Awaited<ReturnType<typeof namesOf>>
export type ArticleView = CampaignPage['articles'][number]
export type RevisionView = ArticleView['revisions'][number]
export type LimitRow = ArticleView['limits'][number]
export type TestPage = Awaited<ReturnType<typeof testPage>> & { withoutOriginal: string[] }
export type Compared = Awaited<ReturnType<typeof comparedOf>>[number]
export type Learning = Awaited<ReturnType<typeof learningOf>>
export type Comparable = Awaited<ReturnType<typeof comparable>>[number]
export type SensorRow = Awaited<ReturnType<typeof listSensors>>[number]
export type FilePreview = {
  fileName: string
  size: number
  sha256: string
  preview: ReturnType<typeof previewFile>
  known: Awaited<ReturnType<typeof sameBytes>>
}
export type FiringRow = TestPage['firings'][number]
export type StageState = TestPage['stages'][number]
export type RecordPage = Awaited<ReturnType<typeof recordPage>>
export type RecordChannel = RecordPage['channels'][number]
/** A channel of which something can be said anew. */
export type Mendable = Pick<RecordChannel, 'id' | 'name' | 'role' | 'used' | 'unit' | 'expression' | 'said'>
export type { TakenAnew } from '../../server/jobs/anew'
export type RecordStrip = RecordStripOf
export type Aligned = Awaited<ReturnType<typeof align>>
export type Dependents = Awaited<ReturnType<typeof dependentsOf>>
export type { StepTable } from '../../server/jobs/steps'
export type Selected = SelectedOf
export type DerivedStrip = Awaited<ReturnType<typeof derive>>
export type Specimen = Awaited<ReturnType<typeof specimensOf>>[number]
export type { Moved } from '../../server/db/articles/constantsMoved'
export type { Hit } from '../../server/db/campaigns/search'
export type { SensorUse } from '../../server/db/registers/inventory'
export type { LiveEvent } from '../../server/db/schema'
export type { LiveFrame, LiveNow, StripPiece } from '../../server/live/frame'
