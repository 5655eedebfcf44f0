import { parentPort, workerData } from 'node:worker_threads'
import type { RowLayout } from '@hypomet/core'
import { blockParser, outcomeOf, type ParseAnswer, type ParseRequest } from '../ingest/parseBlock'

const { layout, timeSlot } = workerData as { layout: RowLayout; timeSlot: number }
const parse = blockParser(layout, timeSlot)

parentPort!.on('message', ({ id, request }: { id: number; request: ParseRequest }) => {
  const outcome = outcomeOf(() => parse(request))
  parentPort!.postMessage({ id, outcome }, 'answer' in outcome ? buffersOf(outcome.answer) : [])
})

const buffersOf = ({ request, time, packed }: ParseAnswer): ArrayBuffer[] => [request.bytes.buffer, time.buffer as ArrayBuffer, packed.bytes.buffer, packed.sizes.buffer, packed.sums.buffer]
