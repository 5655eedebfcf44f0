import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'

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
    const text = event.path.startsWith('/__nuxt_error') ? null : textOf(response.body)
    if (text === null) return
    const accepted = getRequestHeader(event, 'accept-encoding') ?? ''
    const encoding = accepted.includes('br') ? 'br' : accepted.includes('gzip') ? 'gzip' : null
    if (encoding === null || text.length < SMALLEST || getResponseHeader(event, 'content-encoding')) return
    if (typeof response.body !== 'string' && !getResponseHeader(event, 'content-type'))
      setResponseHeader(event, 'content-type', 'application/json')
    setResponseHeader(event, 'content-encoding', encoding)
    appendResponseHeader(event, 'vary', 'accept-encoding')
    removeResponseHeader(event, 'content-length')
    const bytes = Buffer.from(text)
    response.body =
      encoding === 'br'
        ? await brotli(bytes, {
            params: { [constants.BROTLI_PARAM_QUALITY]: QUALITY, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length },
          })
        : await zip(bytes)
  })
})

/** What is sent as text; null for bytes and streams. */
function textOf(body: unknown): string | null {
  if (typeof body === 'string') return body
  const isPlain =
    Array.isArray(body) ||
    (body !== null && typeof body === 'object' && Object.getPrototypeOf(body) === Object.prototype)
  return isPlain ? JSON.stringify(body) : null
}
