import { isLocalRequest } from '../utils/loopback'

/** A page elsewhere that points its name at this machine gets nothing. */
export default defineEventHandler(event => {
  const remote = event.node.req.socket.remoteAddress
  // Calls that the server makes to itself while it renders a page have no socket.
  if (remote && !isLocalRequest(remote, getRequestHeader(event, 'host'), getRequestHeader(event, 'origin')))
    throw createError({ statusCode: 403, message: 'Hypomet answers this machine only.' })
})
