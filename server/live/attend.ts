import { isHypometError } from '@hypomet/core'
import * as z from 'zod'
import type { LiveFrame } from './frame'
import { personInCookie } from './person'
import type { RigConsoles } from './rigs'

const runNumber = z.coerce.number().int().positive()
const MOST_BUFFERED = 4 << 20
const MOST_STRIPS = 64
const drawn = z.object({ draw: z.array(z.string().max(200)).max(MOST_STRIPS) })

/** A console's socket, of whichever server. */
export interface ConsoleSocket {
  send(text: string): void
  close(code: number, why: string): void
  /** Bytes that wait to be sent. */
  buffered(): number
}

/** Frames of the run that an address names, as JSON texts; one that cannot keep up is closed and comes back. */
export function attend(
  runs: RigConsoles,
  { url, cookie }: { url: string; cookie: string | null | undefined },
  socket: ConsoleSocket,
): { hear(text: string): void; leave(): void } | null {
  const run = runNumber.safeParse(new URL(url, 'http://localhost').searchParams.get('run'))
  if (!run.success) return (socket.close(1008, 'no such run'), null)
  const send = (frame: LiveFrame) =>
    socket.buffered() > MOST_BUFFERED ? socket.close(1013, 'too slow') : socket.send(JSON.stringify(frame))
  try {
    const looking = runs.join(run.data, personInCookie(cookie), send)
    return {
      leave: looking.leave,
      hear(text) {
        const said = drawn.safeParse(parsed(text))
        if (said.success) looking.draw(said.data.draw)
      },
    }
  } catch (e) {
    if (!isHypometError(e)) throw e
    // It ended meanwhile: the page has its record.
    socket.send(JSON.stringify({ over: true }))
    socket.close(1000, e.code)
    return null
  }
}

/** Undefined for what is no JSON. */
export function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}
