import { packRecord } from '../../../db/records/packedRecord'
import { targetRecord } from '../../../db/records/targets'

/** Image targets of a record over time, whole, with the gauges beside them. */
export default defineRoute(async event => {
  const { record, names, symbols, gauges } = await targetRecord(useServices().database.read, idOf(event))
  setResponseHeader(event, 'content-type', 'application/octet-stream')
  return packRecord(record, { targets: names, symbols, gauges })
})
