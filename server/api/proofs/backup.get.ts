import { Readable } from 'node:stream'

/** A backup of everything, as one file. */
export default defineRoute(async event => {
  const { manifest, archive } = await useServices().proofs.backup()
  const name = `hypomet-${manifest.at.slice(0, 19).replaceAll(':', '-')}.tar`
  setResponseHeaders(event, {
    'content-type': 'application/x-tar',
    'content-disposition': `attachment; filename="${name}"`,
  })
  return sendStream(event, Readable.from(archive))
})
