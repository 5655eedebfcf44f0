import { keepThumbnail } from '../../../db/tests/attachments'
import { sentBytes } from '../../../ingest/sentFile'
import { shownPicture } from '../../../reports/shownPicture'

/** Keeps a small picture that the browser made, drawn anew. */
export default defineRoute(async event => {
  const { bytes } = await shownPicture(await sentBytes(event), { within: 400 })
  await keepThumbnail(useServices().database, idOf(event), bytes)
  return { ok: true }
})
