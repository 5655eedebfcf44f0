import { attend } from '../live/attend'
import { isLocalRequest } from '../utils/loopback'
import { useServices } from '../utils/services'

const looking = new Map<string, { hear(text: string): void; leave(): void }>()
const leave = (id: string) => {
  looking.get(id)?.leave()
  looking.delete(id)
}

/** Frames of a run, where runs go on in this process: in development, without a front. */
export default defineWebSocketHandler({
  upgrade(request) {
    const { headers } = request as { headers: Headers }
    const said = (name: string) => headers.get(name) ?? undefined
    const asking = { remoteAddress: '127.0.0.1', method: 'GET', host: said('host'), origin: said('origin') }
    if (!isLocalRequest({ ...asking, site: said('sec-fetch-site') }))
      return new Response('Hypomet answers this machine only.', { status: 403 })
  },
  open(peer) {
    const joined = attend(
      useServices().runs,
      { url: peer.request.url, cookie: peer.request.headers.get('cookie') },
      {
        send: text => void peer.send(text),
        close: (code, why) => peer.close(code, why),
        buffered: () => (peer.websocket as { bufferedAmount?: number }).bufferedAmount ?? 0,
      },
    )
    if (joined) looking.set(peer.id, joined)
  },
  message: (peer, message) => looking.get(peer.id)?.hear(message.text()),
  close: peer => leave(peer.id),
  error: peer => leave(peer.id),
})
