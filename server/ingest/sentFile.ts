import { HypometError } from '@hypomet/core'
import { getRequestHeader, type H3Event } from 'h3'
import * as z from 'zod'
import { headerText } from '../live/person'
import { fileReading } from './reading'

/** What a person says of a file whose first bytes are sent. */
export const dialectQuery = z.object({
  ...fileReading.pick({ delimiter: true, numbers: true, dates: true }).shape,
  headerRow: z.coerce.number().int().min(0).optional(),
})

const MOST_LETTERS = 200

/** Name of a file that is sent. @throws HypometError `header-format` */
export const nameOfFile = (event: H3Event): string =>
  headerText('x-file-name', getRequestHeader(event, 'x-file-name') ?? 'file').slice(0, MOST_LETTERS)

/** A piece of a file, or a small one, that is held in memory. @throws HypometError `too-large` */
export async function sentBytes(event: H3Event, most = MOST_HEAD): Promise<Uint8Array> {
  const pieces: Buffer[] = []
  let size = 0
  for await (const piece of event.node.req as AsyncIterable<Buffer>) {
    size += piece.length
    if (size > most) throw new HypometError('too-large', `Up to ${Math.round(most / 1024)} kB are taken here.`)
    pieces.push(piece)
  }
  return new Uint8Array(Buffer.concat(pieces))
}
const MOST_HEAD = 4 * 1024 ** 2

/** A file's name and first bytes, as they were sent. */
export const sentFile = async (event: H3Event) => ({ file: nameOfFile(event), bytes: await sentBytes(event) })

/** A whole file on its way in. */
export const streamedFile = (event: H3Event) => ({
  file: nameOfFile(event),
  stream: event.node.req as AsyncIterable<Buffer>,
})
