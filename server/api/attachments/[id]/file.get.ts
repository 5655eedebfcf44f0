import { createReadStream, existsSync } from 'node:fs'
import { HypometError } from '@hypomet/core'
import * as z from 'zod'
import { attachmentOf } from '../../../db/tests/attachments'
import { shownPicture } from '../../../reports/shownPicture'

/**
 * Pictures open in the browser drawn anew, PDF walled in; everything else is only saved, and everything as it came
 * where that is asked for.
 */
export default defineRoute(
  { query: z.object({ as: z.enum(['shown', 'original']).default('shown') }) },
  async (event, { query }) => {
    const { database, originals } = useServices()
    const file = await attachmentOf(database.read, idOf(event))
    const path = originals.path(file.sha256)
    if (!existsSync(path))
      throw new HypometError('original-missing', `The original of “${file.name}” is not in the folder of originals.`)
    const opens = query.as === 'shown' && file.mime !== 'application/octet-stream'
    const picture = opens && file.mime.startsWith('image/') ? await shownPicture(path) : null
    setResponseHeaders(event, {
      // What a file holds may be shown, and nothing in it runs.
      'content-security-policy': "sandbox; default-src 'none'; img-src 'self'; style-src 'unsafe-inline'",
      'content-type': picture?.mime ?? (opens ? file.mime : 'application/octet-stream'),
      'content-length': picture?.bytes.length ?? file.size,
      'x-content-type-options': 'nosniff',
      'content-disposition': `${opens ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    })
    return picture?.bytes ?? sendStream(event, createReadStream(path))
  },
)
