const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1', '[::1]', '::ffff:127.0.0.1'])

export const isLoopback = (host: string): boolean => LOOPBACK.has(host)

/**
 * Whether a request may be answered: it comes from this machine, by a name of this machine, from a page of this
 * machine.
 */
export function isLocalRequest(
  remoteAddress: string | undefined,
  hostHeader: string | undefined,
  origin: string | undefined,
): boolean {
  const name = (hostHeader ?? '').replace(/:\d+$/, '')
  const from = remoteAddress !== undefined && isLoopback(remoteAddress)
  return from && isLoopback(name) && (origin === undefined || isLoopback(originHost(origin)))
}

function originHost(origin: string): string {
  try {
    return new URL(origin).hostname
  } catch {
    return ''
  }
}
