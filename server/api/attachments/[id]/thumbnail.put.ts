import { keepThumbnail } from '../../../db/tests/attachments'
import { sentBytes } from '../../../ingest/sentFile'

/** Keeps a small picture that the browser made. */
export default defineRoute(async event => {
  await keepThumbnail(useServices().database, idOf(event), await sentBytes(event))
  return { ok: true }
})
