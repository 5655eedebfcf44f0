import { isHypometError } from '@hypomet/core'
import type { Db } from '../db/connection/client'
import { newestResults, type Verified } from '../db/proofs/verify'
import { digestOf } from '../db/results/digest'
import { reductionInput } from '../db/results/reductions'
import type { PayloadOf, ResultOf } from './handlers'

/**
 * Works the newest result of each test out once more, from its record, its settings and its sensors, and compares them
 * digit by digit. What an earlier version of a method said stays as it is.
 */
export async function recompute(
  db: Db,
  slug: string | null,
  reduce: (asked: PayloadOf<'reduce'>) => Promise<ResultOf<'reduce'>>,
): Promise<Pick<Verified, 'findings' | 'recomputed'>> {
  const found: Pick<Verified, 'findings' | 'recomputed'> = { findings: [], recomputed: 0 }
  const say = (testId: number, message: string) => found.findings.push({ kind: 'result', testId, message })
  for (const { id, testId, settings, sensors, methodVersion, outputSha256 } of await newestResults(db, slug)) {
    try {
      const { sha256: _, inputs: __, ...asked } = await reductionInput(db, testId, settings)
      const { output } = await reduce({ ...asked, sensors: sensors as typeof asked.sensors })
      if (output.version !== methodVersion) continue
      found.recomputed++
      if (digestOf(output) !== outputSha256)
        say(testId, `Result ${id} recomputes to other digits from its record, settings and sensors.`)
    } catch (e) {
      if (!isHypometError(e)) throw e
      say(testId, `Result ${id} does not recompute: ${e.message}`)
    }
  }
  return found
}
