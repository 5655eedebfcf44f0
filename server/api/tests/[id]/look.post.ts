import * as z from 'zod'
import { plannedChannels, previewFile, previewOf, rememberedColumns } from '../../../db/datasets'
import { headText } from '../../../ingest/headBytes'
import { fileReading } from '../../../ingest/reading'
import { textHead } from '../../../ingest/textBlocks'

const HEAD = 256 * 1024
const body = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), ...fileReading.pick({ delimiter: true, sheet: true }).shape, headerRow: z.coerce.number().int().min(0).optional() })

/** Another look at a file that is kept already, with what a person says of it. */
export default defineRoute(async event => {
  const { database, originals, jobs } = useServices()
  const { sha256, sheet, ...said } = await bodyOf(event, body)
  const planned = await plannedChannels(database.read, idOf(event))
  const remembered = await rememberedColumns(database.read, idOf(event))
  const columns = await jobs.call('preview', { sha256, ...(sheet === undefined ? {} : { sheet }) })
  return { preview: columns ? previewOf(columns, planned, remembered) : previewFile(headText(await textHead(originals.path(sha256), HEAD)), planned, remembered, said) }
})
