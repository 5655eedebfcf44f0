import { dialectQuery, sentFile } from '../../ingest/sentFile'
import { previewHead } from '../../jobs/previews'

/** What a file’s first bytes say of it before it belongs to any test; nothing is kept. */
export default defineRoute({ query: dialectQuery }, async (event, { query }) =>
  previewHead(useServices(), null, { ...(await sentFile(event)), said: query }),
)
