import { removePair } from '../../../db/records/records'

/** Removes a pair of redundant channels. */
export default defineRoute(async event => {
  const { database, jobs } = useServices()
  const { datasetId } = await removePair(database, personOf(event), idOf(event))
  return jobs.call('pairs', { datasetId })
})
