import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import { isKeptAnswer } from '../db/connection/keptAnswers'

const brotli = promisify(brotliCompress)
const zip = promisify(gzip)

/** Smaller answers are sent as they are. */
const SMALLEST = 1024
/** Fast enough for a local server; higher ones take longer than they save. */
const QUALITY = 4

/** Pages and JSON over a kilobyte go out compressed, as the browser takes it. */
export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('beforeResponse', async (event, response) => {
    // The page of an error is asked for by the server itself, which reads it as text.
    if (event.path.startsWith('/__nuxt_error') || !isText(response.body)) return
    const accepted = getRequestHeader(event, 'accept-encoding') ?? ''
    const encoding = accepted.includes('br') ? 'br' : accepted.includes('gzip') ? 'gzip' : null
    if (encoding === null || getResponseHeader(event, 'content-encoding')) return
    const bytes = await compressed(response.body, encoding)
    if (bytes === null) return
    if (typeof response.body !== 'string' && !getResponseHeader(event, 'content-type'))
      setResponseHeader(event, 'content-type', 'application/json')
    setResponseHeader(event, 'content-encoding', encoding)
    appendResponseHeader(event, 'vary', 'accept-encoding')
    removeResponseHeader(event, 'content-length')
    response.body = bytes
  })
})

type Encoding = 'br' | 'gzip'
/** Of answers that were sent before: what is kept until something changes is sent again as it is. */
const sent: Record<Encoding, WeakMap<object, Promise<Buffer | null>>> = { br: new WeakMap(), gzip: new WeakMap() }

/** Null for what is too small to be worth it. */
function compressed(body: string | object, encoding: Encoding): Promise<Buffer | null> {
  if (typeof body === 'string') return squeezed(body, encoding)
  if (!isKeptAnswer(body)) return squeezed(JSON.stringify(body), encoding)
  const before = sent[encoding].get(body)
  if (before) return before
  const bytes = squeezed(JSON.stringify(body), encoding)
  sent[encoding].set(body, bytes)
  return bytes
}

async function squeezed(text: string, encoding: Encoding): Promise<Buffer | null> {
  if (text.length < SMALLEST) return null
  const bytes = Buffer.from(text)
  if (encoding === 'gzip') return zip(bytes)
  const size = { [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length }
  return brotli(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: QUALITY, ...size } })
}

/** What is sent as text, unlike bytes and streams. */
const isText = (body: unknown): body is string | object =>
  typeof body === 'string' ||
  Array.isArray(body) ||
  (body !== null && typeof body === 'object' && Object.getPrototypeOf(body) === Object.prototype)
