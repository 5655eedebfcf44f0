import { deleteDerived } from '../../../db/records/records'

/** Takes a derived channel out. */
export default defineRoute(async event => {
  await deleteDerived(useServices().database, personOf(event), idOf(event))
  return { ok: true }
})
