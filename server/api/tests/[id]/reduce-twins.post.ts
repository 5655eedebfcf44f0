import { isHypometError } from '@hypomet/core'
import * as z from 'zod'
import { twinsOf } from '../../../db/results/reductions'
import { keepLikeTwin } from '../../../jobs/keepReduction'

/** These settings on twins of a test: each reduced and kept, or refused in words. */
export default defineRoute(
  {
    isRows: true,
    body: z.object({
      testIds: z.array(z.number().int()).min(1).max(200),
      settings: z.record(z.string(), z.unknown()),
    }),
  },
  async (event, { body }) => {
    const services = useServices()
    const { testIds, settings } = body
    const done: { testId: number; title: string; problem: string | null }[] = []
    for (const { id, title } of (await twinsOf(services.database.read, idOf(event))).filter(t =>
      testIds.includes(t.id),
    )) {
      try {
        await keepLikeTwin(services, personOf(event), id, settings)
        done.push({ testId: id, title, problem: null })
      } catch (e) {
        if (!isHypometError(e)) throw e
        done.push({ testId: id, title, problem: e.message })
      }
    }
    return done
  },
)
