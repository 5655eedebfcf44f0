import type { RowLayout } from '@hypomet/core'
import type { ThreadPool } from '../jobs/threadPool'
import type { ParseAnswer, ParsePool } from './parseBlock'

/** Blocks of a file parsed and packed by a pool's threads. */
export function parseThreads(pool: ThreadPool): (layout: RowLayout, timeSlot: number) => ParsePool {
  let file = 0
  return (layout, timeSlot) => {
    file++
    const mine = file
    return {
      width: pool.size + 2,
      parse: request =>
        pool.ask<ParseAnswer>({ kind: 'parse', file: mine, layout, timeSlot, request }, [request.bytes.buffer]),
      close: async () => pool.tell({ kind: 'rest' }),
    }
  }
}
