import { zeroWindow } from '@hypomet/core'
import * as z from 'zod'
import { landmarks } from '../../../db/records/records'
import { recordsTogether } from '../../../db/records/clocks'
import { reductionInput } from '../../../db/results/reductions'
import { stepsPayload } from '../../../jobs/steps'

/**
 * Means of all channels over the steps, as a job: those given, else of the kept reduction, else as the plan proposes.
 */
export default defineRoute(
  {
    body: z.object({
      steps: stepsPayload.shape.steps.nullable().default(null),
      guide: stepsPayload.shape.guide,
      /** The zero of the kept reduction, or of what the plan proposes, is taken off. */
      zeroed: z.boolean().default(true),
    }),
  },
  async (event, { body }) => {
    const { database, jobs } = useServices()
    const asked = body
    const [main] = await recordsTogether(database.read, idOf(event))
    const known = await landmarks(database.read, main!.id)
    // What was kept says where its zero is, or that it has none.
    const found = known.steps.length > 0 ? known : await proposed(main!.testId)
    const payload = {
      datasetId: main!.id,
      guide: asked.guide,
      steps: asked.steps ?? found.steps,
      zero: asked.zeroed ? found.zero : null,
    }
    return { jobId: await jobs.start('steps', payload) }
  },
)

async function proposed(testId: number) {
  const { database, jobs } = useServices()
  const { sha256: _, inputs: __, ...payload } = await reductionInput(database.read, testId, null)
  const { output, settings } = await jobs.call('reduce', payload)
  const columns = output.tables['steps']?.columns as Record<string, (number | null)[]> | undefined
  const steps = (columns?.['start'] ?? []).flatMap((from, i) =>
    from === null ? [] : [{ from, to: columns!['end']![i]! }],
  )
  return { steps, zero: zeroWindow(settings) }
}
