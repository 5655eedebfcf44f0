import { isLocalRequest } from '../utils/loopback'

/** A page elsewhere, on another port of this machine too, or one that points its name at this machine gets nothing. */
export default defineEventHandler(event => {
  const remoteAddress = event.node.req.socket.remoteAddress
  // Calls that the server makes to itself while it renders a page have no socket.
  if (!remoteAddress) return
  const { method } = event
  const [host, origin, site, mode] = ['host', 'origin', 'sec-fetch-site', 'sec-fetch-mode'].map(name =>
    getRequestHeader(event, name),
  )
  if (!isLocalRequest({ remoteAddress, method, host, origin, site, mode }))
    throw createError({ statusCode: 403, message: 'Hypomet answers this machine only.' })
})
