import { eq } from 'drizzle-orm'
import { notFound } from '../../db/notFound'
import { job } from '../../db/schema'

export default defineRoute(async event => {
  const [found] = await useServices().database.read.select().from(job).where(eq(job.id, idOf(event)))
  if (!found) throw notFound('job', idOf(event))
  return found
})
