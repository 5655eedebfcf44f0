import { HypometError, isHypometError } from '@hypomet/core'
import { plannedChannels, previewFile, previewOf, rememberedColumns, sameBytes } from '../../../db/datasets'
import { headText } from '../../../ingest/headBytes'
import { textHead } from '../../../ingest/textBlocks'

const MOST_BYTES = 16 * 1024 ** 3
const HEAD = 256 * 1024

/** Keeps the file as it came and says what its head looks like, and where the same bytes have been imported before. */
export default defineRoute(async event => {
  const { database, originals, jobs } = useServices()
  const fileName = decodeURIComponent(getRequestHeader(event, 'x-file-name') ?? 'file')
  try {
    const planned = await plannedChannels(database.read, idOf(event))
    const { sha256, size } = await originals.keepStream(event.node.req as AsyncIterable<Buffer>, MOST_BYTES)
    if (size === 0) throw new HypometError('empty-file', 'The file holds no line.')
    const remembered = await rememberedColumns(database.read, idOf(event))
    const columns = await jobs.call('preview', { sha256 })
    const preview = columns ? previewOf(columns, planned, remembered) : previewFile(headText(await textHead(originals.path(sha256), HEAD)), planned, remembered)
    return { fileName, size, sha256, preview, known: await sameBytes(database.read, sha256) }
  } catch (e) {
    throw isHypometError(e) ? e.at({ file: fileName }) : e
  }
})
