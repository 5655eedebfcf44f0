import { reductionInput } from '../../../db/results/reductions'
import { storedRecord } from '../../../db/records/onMainClock'
import { packRecord } from '../../../db/records/packedRecord'

/** The channels that the test's reduction reads, whole, for a browser that recomputes while something is dragged. */
export default defineRoute(async event => {
  const { read } = useServices().database
  const { datasetId, name, sensors, outcome, calls, peak } = await reductionInput(read, idOf(event), null)
  const record = await storedRecord(read, datasetId, name)
  setResponseHeader(event, 'content-type', 'application/octet-stream')
  return packRecord(record, { sensors, outcome, calls, peak })
})
