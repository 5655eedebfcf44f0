import * as z from 'zod'
import { useServices } from '../utils/services'
import { isLocalRequest } from '../utils/loopback'

const runNumber = z.coerce.number().int().positive()
const MOST_BUFFERED = 4 << 20
const leaving = new Map<string, () => void>()

/** Frames of a run as JSON texts; a console that cannot keep up is closed and comes back for the history. */
export default defineWebSocketHandler({
  upgrade(request) {
    const { headers } = request as { headers: Headers }
    if (!isLocalRequest('127.0.0.1', headers.get('host') ?? undefined, headers.get('origin') ?? undefined)) return new Response('Hypomet answers this machine only.', { status: 403 })
  },
  async open(peer) {
    const run = runNumber.safeParse(new URL(peer.request.url, 'http://localhost').searchParams.get('run'))
    if (!run.success) return void peer.close(1008, 'no such run')
    const leave = await useServices().runs.join(run.data, frame => {
      const { bufferedAmount } = peer.websocket as { bufferedAmount?: number }
      if ((bufferedAmount ?? 0) > MOST_BUFFERED) return void peer.close(1013, 'too slow')
      peer.send(JSON.stringify(frame))
    })
    leaving.set(peer.id, leave)
  },
  close(peer) {
    leaving.get(peer.id)?.()
    leaving.delete(peer.id)
  },
  error(peer) {
    leaving.get(peer.id)?.()
    leaving.delete(peer.id)
  },
})
