import { localDay } from '@hypomet/core'
import { testPage } from '../../../db/tests/tests'

/** A test with its plan, record, results, verdicts and stages. */
export default defineRoute(event => {
  const { database, missing } = useServices()
  const id = idOf(event)
  return database.kept(`test ${localDay()} ${id}`, async () => ({
    ...(await testPage(database, id)),
    /** Records whose originals are not in their folder. */
    withoutOriginal: missing.filter(m => m.testId === id).map(m => m.name),
  }))
})
