import { namesAsked } from '@hypomet/core'
import * as z from 'zod'
import { reductionInput } from '../../../db/results/reductions'
import { storedRecord } from '../../../db/records/onMainClock'
import { packRecord } from '../../../db/records/packedRecord'

/**
 * The channels that the test's reduction reads, whole, and those that settings call by name, for a browser that
 * recomputes while something is dragged.
 */
export default defineRoute(
  { query: z.object({ names: z.string().max(20_000).default('') }) },
  async (event, { query }) => {
    const { read } = useServices().database
    const { datasetId, name, sensors, outcome, calls, peak, own } = await reductionInput(read, idOf(event), null)
    const names = [...query.names.split(',').filter(Boolean), ...namesAsked({ own })]
    const record = await storedRecord(read, datasetId, name, names)
    setResponseHeader(event, 'content-type', 'application/octet-stream')
    return packRecord(record, { sensors, outcome, calls, peak, own })
  },
)
