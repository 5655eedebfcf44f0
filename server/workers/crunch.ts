import { parentPort, workerData } from 'node:worker_threads'
import type { RowLayout, StepSpan } from '@hypomet/core'
import { readChannels, type StoredChannel } from '../db/records/bulk'
import { openConnection, type Connection } from '../db/connection/client'
import { blockParser, type ParseAnswer, type ParseRequest } from '../ingest/parseBlock'
import { lookOverSome, meansOfSome, type AskedChannel } from '../jobs/healthThreads'
import { outcomeOf } from '../jobs/threadPool'

const { url } = workerData as { url: string }

type Asked =
  | { id: number; kind: 'parse'; file: number; layout: RowLayout; timeSlot: number; request: ParseRequest }
  | { id: number; kind: 'health'; record: number; time: StoredChannel; channels: AskedChannel[] }
  | { id: number; kind: 'means'; channels: StoredChannel[]; spans: StepSpan[] }
  | { kind: 'rest' }

/** What was made for the file or the record at hand; the next one replaces it. */
let parser: { file: number; parse: (request: ParseRequest) => ParseAnswer } | null = null
let record: { of: number; t: Float64Array } | null = null
let db: Connection | null = null

async function work(m: Exclude<Asked, { kind: 'rest' }>): Promise<unknown> {
  if (m.kind === 'parse') {
    if (parser?.file !== m.file) parser = { file: m.file, parse: blockParser(m.layout, m.timeSlot) }
    return parser.parse(m.request)
  }
  db ??= await openConnection(url, { readOnly: true })
  if (m.kind === 'means') return meansOfSome(db, m.channels, m.spans)
  if (record?.of !== m.record) record = { of: m.record, t: (await readChannels(db.$client, [m.time])).get(m.time.id)! }
  return lookOverSome(db, record.t, m.channels)
}

/** One piece after the other. */
let turn: Promise<void> = Promise.resolve()
parentPort!.on('message', (m: Asked) => {
  turn = turn.then(async () => {
    if (m.kind === 'rest') {
      parser = null
      record = null
      db?.$client.close()
      db = null
      return
    }
    const outcome = await outcomeOf(() => work(m))
    parentPort!.postMessage(
      { id: m.id, outcome },
      m.kind === 'parse' && 'result' in outcome ? buffersOf(outcome.result as ParseAnswer) : [],
    )
  })
})

const buffersOf = ({ request, time, packed }: ParseAnswer): ArrayBuffer[] => [
  request.bytes.buffer,
  time.buffer as ArrayBuffer,
  packed.bytes.buffer,
  packed.sizes.buffer,
  packed.sums.buffer,
]
