import * as z from 'zod'
import { fileReading } from '../../../ingest/reading'
import { previewKept } from '../../../jobs/previews'

/** Another look at a file that is kept already, with what a person says of it. */
export default defineRoute(
  {
    body: z.object({
      sha256: z.string().regex(/^[0-9a-f]{64}$/),
      ...fileReading.pick({ delimiter: true, sheet: true, numbers: true, dates: true }).shape,
      headerRow: z.coerce.number().int().min(0).optional(),
    }),
  },
  async (event, { body }) => {
    const { sha256, ...said } = body
    return { preview: await previewKept(useServices(), idOf(event), sha256, said) }
  },
)
