import { dialectQuery, sentFile } from '../../../ingest/sentFile'
import { previewHead } from '../../../jobs/previews'

/** What a file’s first bytes say of it; nothing is kept. Null where the whole of it is needed to tell. */
export default defineRoute({ query: dialectQuery }, async (event, { query }) =>
  previewHead(useServices(), idOf(event), { ...(await sentFile(event)), said: query }),
)
