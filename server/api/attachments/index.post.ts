import { open } from 'node:fs/promises'
import * as z from 'zod'
import { attach, MOST_ATTACHED } from '../../db/tests/attachments'
import { nameOfFile } from '../../ingest/sentFile'

/** Attaches a file; its name stands in the header x-file-name. */
export default defineRoute(
  { query: z.object({ entity: z.string(), id: z.coerce.number().int(), tag: z.string().max(40).optional() }) },
  async (event, { query }) => {
    const { database, originals } = useServices()
    const name = nameOfFile(event)
    const { sha256, size } = await originals.keepStream(event.node.req, MOST_ATTACHED)
    const file = await open(originals.path(sha256))
    const { buffer } = await file.read(Buffer.alloc(16), 0, 16, 0).finally(() => file.close())
    return attach(database, personOf(event), query, { sha256, size, name, head: buffer })
  },
)
