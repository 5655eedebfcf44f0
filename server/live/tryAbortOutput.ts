import { HypometError, isWired, outputWords } from '@hypomet/core'
import type { Database } from '../db/connection/client'
import { markReady } from '../db/tests/readiness'
import { viewedPlanOf } from '../db/tests/viewedPlan'
import { fire } from './abortOutput'

/** A coil stands as on an abort for so long when it is tried, ms. */
const STANDS = 1000

/**
 * Tries an output of a test's plan: a line is sent, a coil is set for a second and set back. Taken, it is ticked.
 *
 * @throws HypometError `output-silent`, `not-found`
 */
export async function tryAbortOutput(
  database: Database,
  by: string,
  testId: number,
  index: number,
): Promise<{ words: string }> {
  const output = (await viewedPlanOf(database.read, testId))?.plan.onAbort[index]
  if (!output || !isWired(output)) throw new HypometError('not-found', 'The plan has no such output.')
  const ms = await fire(output)
  if (output.kind === 'coil') {
    await new Promise(resolve => setTimeout(resolve, STANDS))
    await fire(output, output.to === 'on' ? 'off' : 'on')
  }
  const words = `taken after ${ms.toFixed(0)} ms${output.kind === 'coil' ? '; set back after 1 s' : ''}`
  await markReady(database, by, testId, {
    key: `abort:${outputWords(output)}`,
    state: 'done',
    reason: words,
    isTried: true,
  })
  return { words }
}
