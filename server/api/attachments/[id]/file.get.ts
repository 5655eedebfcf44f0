import { createReadStream, existsSync } from 'node:fs'
import { HypometError } from '@hypomet/core'
import { attachmentOf } from '../../../db/tests/attachments'

/** Pictures and PDF open in the browser, walled in; everything else is only saved. */
export default defineRoute(async event => {
  const { database, originals } = useServices()
  const file = await attachmentOf(database.read, idOf(event))
  const opens = file.mime !== 'application/octet-stream'
  const path = originals.path(file.sha256)
  if (!existsSync(path))
    throw new HypometError('original-missing', `The original of “${file.name}” is not in the folder of originals.`)
  setResponseHeaders(event, {
    // What a file holds may be shown, and nothing in it runs.
    'content-security-policy': "sandbox; default-src 'none'; img-src 'self'; style-src 'unsafe-inline'",
    'content-type': file.mime,
    'content-length': file.size,
    'x-content-type-options': 'nosniff',
    'content-disposition': `${opens ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
  })
  return sendStream(event, createReadStream(path))
})
