import { localDay } from '@hypomet/core'
import { testPage } from '../../../db/tests/tests'

/** A test with its plan, record, results, verdicts and stages. */
export default defineRoute(event => {
  const { database } = useServices()
  const id = idOf(event)
  return database.kept(`test ${localDay()} ${id}`, () => testPage(database, id))
})
