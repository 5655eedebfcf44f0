import { HypometError, isHypometError } from '@hypomet/core'
import { plannedChannels, sameBytes } from '../../../db/records/datasets'
import { previewKept } from '../../../jobs/previews'

const MOST_BYTES = 16 * 1024 ** 3

/** Keeps the file as it came and says what its head looks like, and where the same bytes have been imported before. */
export default defineRoute(async event => {
  const services = useServices()
  const { database, originals } = services
  const fileName = decodeURIComponent(getRequestHeader(event, 'x-file-name') ?? 'file')
  try {
    // Without a plan there is nothing to map a file to: said before it is sent.
    await plannedChannels(database.read, idOf(event))
    const { sha256, size } = await originals.keepStream(event.node.req as AsyncIterable<Buffer>, MOST_BYTES)
    if (size === 0) throw new HypometError('empty-file', 'The file holds no line.')
    return {
      fileName,
      size,
      sha256,
      preview: await previewKept(services, idOf(event), sha256, {}),
      known: await sameBytes(database.read, sha256),
    }
  } catch (e) {
    throw isHypometError(e) ? e.at({ file: fileName }) : e
  }
})
