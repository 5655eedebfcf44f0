import * as z from 'zod'
import { rolesOfPlan } from '@hypomet/core'
import { beginImport, plannedChannels } from '../../../db/records/datasets'
import { brokeSeen, fileReading, importChannels } from '../../../ingest/reading'
import { startImport } from '../../../jobs/imports'
import { testContext } from '../../../db/tests/testContext'

/** Starts an import as a job; the dataset appears when it is complete. */
export default defineRoute(
  {
    isRows: true,
    body: z.object({
      sha256: z.string().regex(/^[0-9a-f]{64}$/),
      fileName: z.string(),
      channels: importChannels,
      reading: fileReading.default({}),
      joins: z.number().int().nullable().default(null),
      clockOffset: z.number().default(0),
      end: z.enum(['ladder done', 'article broke', 'fixture gave way', 'aborted']),
      broke: brokeSeen.nullable().default(null),
    }),
  },
  async (event, { body }) => {
    const { database, jobs } = useServices()
    const testId = idOf(event)
    const by = personOf(event)
    const input = body
    const { test } = (await testContext(database.read, testId))!
    const planned = await plannedChannels(database.read, testId)
    const { id: datasetId } = await beginImport(database, by, testId, input)
    const payload = {
      datasetId,
      sha256: input.sha256,
      fileName: input.fileName,
      family: test.family,
      roles: rolesOfPlan(test.family, test.plan),
      channels: input.channels,
      reading: input.reading,
      joins: input.joins,
      clockOffset: input.clockOffset,
      sensorOf: Object.fromEntries(planned.map(p => [p.role, p.sensorId])),
      testId,
      by,
      end: input.end,
      broke: input.broke,
    }
    return { jobId: await startImport({ database, jobs }, payload) }
  },
)
