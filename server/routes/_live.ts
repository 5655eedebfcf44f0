import { isHypometError } from '@hypomet/core'
import * as z from 'zod'
import { useServices } from '../utils/services'
import { isLocalRequest } from '../utils/loopback'
import { personInCookie } from '../live/person'

const runNumber = z.coerce.number().int().positive()
const MOST_STRIPS = 64
const said = z.object({ draw: z.array(z.string().max(200)).max(MOST_STRIPS) })
const MOST_BUFFERED = 4 << 20
const looking = new Map<string, { leave(): void; draw(roles: string[]): void }>()

/** Frames of a run as JSON texts; a console that cannot keep up is closed and comes back for the history. */
export default defineWebSocketHandler({
  upgrade(request) {
    const { headers } = request as { headers: Headers }
    if (!isLocalRequest('127.0.0.1', headers.get('host') ?? undefined, headers.get('origin') ?? undefined))
      return new Response('Hypomet answers this machine only.', { status: 403 })
  },
  open(peer) {
    const run = runNumber.safeParse(new URL(peer.request.url, 'http://localhost').searchParams.get('run'))
    if (!run.success) return void peer.close(1008, 'no such run')
    try {
      looking.set(
        peer.id,
        useServices().runs.join(run.data, personInCookie(peer.request.headers.get('cookie')), frame => {
          const { bufferedAmount } = peer.websocket as { bufferedAmount?: number }
          if ((bufferedAmount ?? 0) > MOST_BUFFERED) return void peer.close(1013, 'too slow')
          peer.send(JSON.stringify(frame))
        }),
      )
    } catch (e) {
      if (!isHypometError(e)) throw e
      // It ended meanwhile: the page has its record.
      peer.send(JSON.stringify({ over: true }))
      peer.close(1000, e.code)
    }
  },
  message(peer, message) {
    const m = said.safeParse(message.json())
    if (m.success) looking.get(peer.id)?.draw(m.data.draw)
  },
  close(peer) {
    looking.get(peer.id)?.leave()
    looking.delete(peer.id)
  },
  error(peer) {
    looking.get(peer.id)?.leave()
    looking.delete(peer.id)
  },
})
