import { createReadStream } from 'node:fs'
import { attachmentOf } from '../../../db/tests/attachments'

/** Pictures and PDF open in the browser, walled in; everything else is only saved. */
export default defineRoute(async event => {
  const { database, originals } = useServices()
  const file = await attachmentOf(database.read, idOf(event))
  const opens = file.mime !== 'application/octet-stream'
  setResponseHeaders(event, {
    'content-type': file.mime,
    'content-length': file.size,
    'x-content-type-options': 'nosniff',
    'content-disposition': `${opens ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
  })
  return sendStream(event, createReadStream(originals.path(file.sha256)))
})
