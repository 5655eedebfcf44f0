import type { RowLayout } from '@hypomet/core'
import type { Connection } from '../db/connection/client'
import type { Originals } from '../db/connection/originals'
import type { ParsePool } from '../ingest/parseBlock'
import type { LookOver, MeanOfSteps } from './healthThreads'

export interface JobContext {
  /** Ends this process where its server is gone: what another goes on with is not taken back. */
  stillWanted?(): Promise<void>
  db: Connection
  originals: Originals
  progress(share: number, doing: string): void
  /** Threads that parse. */
  parsers(layout: RowLayout, timeSlot: number): ParsePool
  lookOver: LookOver
  meansOfSteps: MeanOfSteps
  /** @throws HypometError `cancelled` once somebody has stopped the job */
  check(): void
}
