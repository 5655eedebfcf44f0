import { streamedFile } from '../../ingest/sentFile'
import { keepFile } from '../../jobs/previews'

/** Keeps a file as it came before it belongs to any test, and says what it looks like. */
export default defineRoute(event => keepFile(useServices(), null, streamedFile(event)))
