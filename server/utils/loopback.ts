const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1', '[::1]', '::ffff:127.0.0.1'])

export const isLoopback = (host: string): boolean => LOOPBACK.has(host)

/** What a request says of where it comes from. */
export interface Asking {
  remoteAddress: string | undefined
  method: string
  host: string | undefined
  origin: string | undefined
  /** `Sec-Fetch-Site` and `Sec-Fetch-Mode`, as browsers send them. */
  site?: string | undefined
  mode?: string | undefined
}

/**
 * Whether a request may be answered: it comes from this machine, by a name of this machine, and from no page but our
 * own: the same scheme, name and port. A link on a page elsewhere may be followed.
 */
export function isLocalRequest({ remoteAddress, method, host, origin, site, mode }: Asking): boolean {
  const from = remoteAddress !== undefined && isLoopback(remoteAddress)
  if (!from || !isLoopback((host ?? '').replace(/:\d+$/, ''))) return false
  if (origin !== undefined && origin !== `http://${host}`) return false
  const isOwn = site === undefined || site === 'same-origin' || site === 'none'
  return isOwn || (method === 'GET' && mode === 'navigate')
}
