import { parentPort, workerData } from 'node:worker_threads'
import type { RowLayout } from '@hypomet/core'
import { blockParser, outcomeOf, type ParseRequest } from '../ingest/parseBlock'

const { layout, timeSlot } = workerData as { layout: RowLayout; timeSlot: number }
const parse = blockParser(layout, timeSlot)

parentPort!.on('message', ({ id, request }: { id: number; request: ParseRequest }) => {
  const outcome = outcomeOf(() => parse(request))
  const moved = 'answer' in outcome ? [outcome.answer.request.bytes.buffer, outcome.answer.time.buffer as ArrayBuffer] : []
  parentPort!.postMessage({ id, outcome }, moved)
})
