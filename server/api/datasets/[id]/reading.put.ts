import { rolesOfPlan } from '@hypomet/core'
import * as z from 'zod'
import { plannedChannels } from '../../../db/records/datasets'
import { beginReread } from '../../../db/records/reread'
import { testContext } from '../../../db/tests/testContext'
import { fileReading } from '../../../ingest/reading'
import { startImport } from '../../../jobs/imports'

/**
 * Reads a record's file again with other words about it: its clock, stamps that repeat, rows of names, decimal signs. A
 * job; the record stays as it is until the file has been read, and where it cannot be.
 */
export default defineRoute(
  {
    isRows: true,
    body: z.object({
      reading: fileReading,
      clock: z
        .object({ column: z.string().max(500), unit: z.string().max(40) })
        .nullable()
        .optional(),
    }),
  },
  async (event, { body }) => {
    const { database, jobs } = useServices()
    const by = personOf(event)
    const replaces = idOf(event)
    const made = await beginReread(database, by, replaces, body)
    const { test } = (await testContext(database.read, made.testId))!
    const planned = await plannedChannels(database.read, made.testId)
    const payload = {
      datasetId: made.id,
      sha256: made.sha256!,
      fileName: made.name,
      family: test.family,
      roles: rolesOfPlan(test.family, test.plan),
      channels: made.channelMap!,
      reading: body.reading,
      joins: made.joinsId,
      clockOffset: made.clockOffset,
      sensorOf: Object.fromEntries(planned.map(p => [p.role, p.sensorId])),
      testId: made.testId,
      by,
      end: 'ladder done',
      replaces,
    }
    return { jobId: await startImport({ database, jobs }, payload) }
  },
)
