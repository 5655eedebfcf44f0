import * as z from 'zod'
import { channelsOf } from '../../../db/records/records'
import { readStrips } from '../../../db/records/samples'

const number = z.coerce.number()
/** A range of some channels as minima and maxima for drawing, in the order asked. */
export default defineRoute(
  {
    query: z.object({
      channels: z
        .string()
        .transform(s => s.split(',').filter(Boolean).map(Number))
        .pipe(z.array(z.number().int()).min(1).max(64)),
      width: number.int().min(10).max(4000).default(1000),
      from: number.optional(),
      to: number.optional(),
    }),
  },
  async (event, { query }) => {
    const { read } = useServices().database
    const { channels, width, from, to } = query
    return readStrips(
      read,
      await channelsOf(read, idOf(event), channels),
      width,
      from !== undefined && to !== undefined ? { from, to } : null,
    )
  },
)
