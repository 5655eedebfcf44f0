import { streamedFile } from '../../../ingest/sentFile'
import { keepFile } from '../../../jobs/previews'

/** Keeps the file as it came and says what its head looks like, and where the same bytes have been imported before. */
export default defineRoute(event => keepFile(useServices(), idOf(event), streamedFile(event)))
