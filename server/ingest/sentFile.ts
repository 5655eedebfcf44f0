import { getRequestHeader, readRawBody, type H3Event } from 'h3'
import * as z from 'zod'
import { fileReading } from './reading'

/** What a person says of a file whose first bytes are sent. */
export const dialectQuery = z.object({
  ...fileReading.pick({ delimiter: true, numbers: true, dates: true }).shape,
  headerRow: z.coerce.number().int().min(0).optional(),
})

const nameOf = (event: H3Event): string => decodeURIComponent(getRequestHeader(event, 'x-file-name') ?? 'file')

/** A file's name and first bytes, as they were sent. */
export const sentFile = async (event: H3Event) => ({
  file: nameOf(event),
  bytes: new Uint8Array((await readRawBody(event, false)) ?? Buffer.alloc(0)),
})

/** A whole file on its way in. */
export const streamedFile = (event: H3Event) => ({
  file: nameOf(event),
  stream: event.node.req as AsyncIterable<Buffer>,
})
