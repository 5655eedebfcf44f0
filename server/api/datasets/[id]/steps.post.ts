import * as z from 'zod'
import { landmarks } from '../../../db/records/records'
import { recordsTogether } from '../../../db/records/clocks'
import { reductionInput } from '../../../db/results/reductions'
import { stepsPayload } from '../../../jobs/steps'

/**
 * Means of all channels over the steps, as a job: those given, else of the kept reduction, else as the plan proposes.
 */
export default defineRoute(
  { body: z.object({ steps: stepsPayload.shape.steps.nullable().default(null), guide: stepsPayload.shape.guide }) },
  async (event, { body }) => {
    const { database, jobs } = useServices()
    const asked = body
    const [main] = await recordsTogether(database.read, idOf(event))
    const steps = asked.steps ?? (await landmarks(database.read, main!.id)).steps
    const proposed = steps.length > 0 ? steps : await proposedSteps(main!.testId)
    return { jobId: await jobs.start('steps', { datasetId: main!.id, steps: proposed, guide: asked.guide }) }
  },
)

async function proposedSteps(testId: number): Promise<{ from: number; to: number }[]> {
  const { database, jobs } = useServices()
  const { sha256: _, inputs: __, ...payload } = await reductionInput(database.read, testId, null)
  const { output } = await jobs.call('reduce', payload)
  const columns = output.tables['steps']?.columns as Record<string, (number | null)[]> | undefined
  return (columns?.['start'] ?? []).flatMap((from, i) => (from === null ? [] : [{ from, to: columns!['end']![i]! }]))
}
