import * as z from 'zod'
import { HEAD_HEADER } from '../../../db/connection/auditHead'
import { channelsOf, recordPage } from '../../../db/records/records'
import { exportCsv } from '../../../reports/record'

/** A stretch of some channels as CSV in SI, sample by sample. */
export default defineRoute(
  {
    query: z.object({
      channels: z
        .string()
        .transform(s => s.split(',').filter(Boolean).map(Number))
        .pipe(z.array(z.number().int()).min(1).max(512)),
      from: z.coerce.number(),
      to: z.coerce.number(),
    }),
  },
  async (event, { query }) => {
    const { database, proofs } = useServices()
    const { read } = database
    setResponseHeader(event, HEAD_HEADER, JSON.stringify(await proofs.head()))
    const { channels, from, to } = query
    const page = await recordPage(read, idOf(event))
    const rows = await channelsOf(read, idOf(event), channels)
    setHeader(event, 'content-type', 'text/csv; charset=utf-8')
    setHeader(
      event,
      'content-disposition',
      `attachment; filename="${page.records[0]!.name.replace(/[^\w.-]+/g, '_').replace(/\.\w+$/, '')}-selection.csv"`,
    )
    return sendStream(event, exportCsv(read, page.records[0]!.id, rows, { from, to }))
  },
)
