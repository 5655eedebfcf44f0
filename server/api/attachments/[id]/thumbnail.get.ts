import { mimeOf, thumbnailOf } from '../../../db/tests/attachments'

/** The small picture of an attachment. */
export default defineRoute(async event => {
  const bytes = await thumbnailOf(useServices().database.read, idOf(event))
  setResponseHeaders(event, {
    'content-type': mimeOf(bytes),
    'x-content-type-options': 'nosniff',
    'cache-control': 'private, max-age=31536000, immutable',
  })
  return bytes
})
