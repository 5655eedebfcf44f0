import { isHypometError } from '@hypomet/core'
import { formatOf } from '@hypomet/core/formats/columns'
import { plannedChannels, previewFile, rememberedColumns } from '../../../db/datasets'
import { headText } from '../../../ingest/headBytes'

/** What a file’s first bytes say of it; nothing is kept. Null where the whole of it is needed to tell. */
export default defineRoute(async event => {
  const { read } = useServices().database
  const file = decodeURIComponent(getRequestHeader(event, 'x-file-name') ?? 'file')
  const bytes = new Uint8Array((await readRawBody(event, false)) ?? Buffer.alloc(0))
  try {
    return { preview: formatOf(bytes) ? null : previewFile(headText(bytes), await plannedChannels(read, idOf(event)), await rememberedColumns(read, idOf(event))) }
  } catch (e) {
    throw isHypometError(e) ? e.at({ file }) : e
  }
})
