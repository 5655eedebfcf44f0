import { HypometError, isHypometError } from '@hypomet/core'
import { plannedChannels, previewFile } from '../../../db/datasets'

const MOST_BYTES = 512 << 20

/** Keeps the file as it came and says what its head looks like. */
export default defineRoute(async event => {
  const { database, originals } = useServices()
  const fileName = decodeURIComponent(getRequestHeader(event, 'x-file-name') ?? 'file')
  const planned = await plannedChannels(database.read, idOf(event))
  const parts: Buffer[] = []
  let size = 0
  for await (const part of event.node.req as AsyncIterable<Buffer>) {
    size += part.length
    if (size > MOST_BYTES) throw new HypometError('too-large', 'This file is larger than 512 MB.', { file: fileName })
    parts.push(part)
  }
  const bytes = Buffer.concat(parts)
  try {
    return { fileName, size, preview: previewFile(bytes, planned), sha256: await originals.keep(bytes) }
  } catch (e) {
    throw isHypometError(e) ? e.at({ file: fileName }) : e
  }
})
