import { audit } from '../../db/connection/audit'

/** Makes a backup in the folder that was named for them. */
export default defineRoute(async event => {
  const { database, proofs } = useServices()
  const by = personOf(event)
  const name = await proofs.make()
  await database.write(db =>
    audit(db, { who: by, what: 'backup', entity: 'database', entityId: null, after: { name } }),
  )
  return { name }
})
