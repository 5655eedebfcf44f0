import { isHypometError } from '@hypomet/core'
import { formatOf } from '@hypomet/core/formats/columns'
import { numbersOfTest, plannedChannels, previewFile, rememberedColumns } from '../../../db/records/datasets'
import * as z from 'zod'
import { fileReading } from '../../../ingest/reading'
import { headText } from '../../../ingest/headBytes'

/** What a file’s first bytes say of it; nothing is kept. Null where the whole of it is needed to tell. */
export default defineRoute(
  {
    query: z.object({
      ...fileReading.pick({ delimiter: true, numbers: true }).shape,
      headerRow: z.coerce.number().int().min(0).optional(),
    }),
  },
  async (event, { query }) => {
    const { read } = useServices().database
    const file = decodeURIComponent(getRequestHeader(event, 'x-file-name') ?? 'file')
    const bytes = new Uint8Array((await readRawBody(event, false)) ?? Buffer.alloc(0))
    const said = query
    try {
      return {
        preview: formatOf(bytes)
          ? null
          : previewFile(
              headText(bytes),
              await plannedChannels(read, idOf(event)),
              await rememberedColumns(read, idOf(event)),
              said,
              await numbersOfTest(read, idOf(event)),
            ),
      }
    } catch (e) {
      throw isHypometError(e) ? e.at({ file }) : e
    }
  },
)
