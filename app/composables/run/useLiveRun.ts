import type { LiveEvent, LiveFrame, LiveNow } from '~/types/api'
import { StripRing } from '../charts/stripRing'

const MOST_POINTS = 4000
/** Curves are drawn anew so often at most, ms: the strips are what moves. */
const CURVE_EVERY = 250

/** Follows a run: history first, then every frame; comes back by itself when the line drops. */
export function useLiveRun(runId: Ref<number | null>, onClosed: () => void) {
  const points = { t: [] as number[], commanded: [] as number[], read: [] as number[] }
  /** A new list now and then, not at every frame. */
  const curve = shallowRef({ ...points })
  const events = shallowRef<LiveEvent[]>([])
  const state = shallowRef<LiveFrame['state'] | null>(null)
  const now = shallowRef<LiveNow | null>(null)
  const connected = ref(false)
  /** s since anything came over the line; whoever looks sees a dead one within two. */
  const silentFor = ref(0)
  let heardAt = 0
  useIntervalFn(() => {
    silentFor.value = heardAt === 0 ? 0 : (performance.now() - heardAt) / 1000
  }, 250)
  const strips = new StripRing()
  let drawn: string[] = []
  let socket: WebSocket | null = null
  let retry: ReturnType<typeof setTimeout> | undefined
  let shown = 0
  let isMounted = false
  const early: (() => void)[] = []

  function connect(id: number): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws'
    let isFirst = true
    socket = new WebSocket(`${scheme}://${location.host}/_live?run=${id}`)
    socket.onopen = () => {
      connected.value = true
      if (drawn.length > 0) ask()
    }
    socket.onmessage = message => {
      const hear = () => {
        const frame = JSON.parse(message.data as string) as LiveFrame | { over: true }
        if ('over' in frame) return over()
        take(frame, isFirst)
        isFirst = false
      }
      // What comes before the page stands is heard when it does.
      if (isMounted) hear()
      else early.push(hear)
    }
    socket.onclose = () => {
      connected.value = false
      if (runId.value === id) retry = setTimeout(() => connect(id), 1000)
    }
  }

  function take(frame: LiveFrame, isHistory: boolean): void {
    heardAt = performance.now()
    for (const key of ['t', 'commanded', 'read'] as const) {
      if (isHistory) points[key] = [...frame[key]]
      else points[key].push(...frame[key])
    }
    if (points.t.length > MOST_POINTS)
      for (const key of ['t', 'commanded', 'read'] as const) points[key] = points[key].filter((_, i) => i % 2 === 0)
    if (isHistory || performance.now() - shown > CURVE_EVERY) {
      shown = performance.now()
      curve.value = { ...points }
    }
    if (isHistory) events.value = frame.events
    else if (frame.events.length > 0) events.value = [...events.value, ...frame.events]
    if (changed(state.value, frame.state)) state.value = frame.state
    if (frame.now) now.value = frame.now
    if (frame.strips) strips.begin(frame.strips)
    if (frame.strip) strips.push(frame.strip)
    if (frame.closed) over()
  }

  function over(): void {
    leave()
    onClosed()
  }

  const ask = () => socket?.readyState === WebSocket.OPEN && socket.send(JSON.stringify({ draw: drawn }))
  /** Which channels are drawn as strips; none while nobody looks at them. */
  function draw(roles: string[]): void {
    drawn = roles
    strips.of(roles)
    ask()
  }

  function leave(): void {
    clearTimeout(retry)
    if (socket) socket.onclose = null
    socket?.close()
    socket = null
    connected.value = false
  }

  // The line is opened while the page is still being put together: the first frame waits for nothing.
  if (import.meta.client && runId.value !== null) connect(runId.value)
  onMounted(() => {
    isMounted = true
    for (const hear of early.splice(0)) hear()
    watch(runId, id => {
      leave()
      if (id !== null) connect(id)
    })
  })
  onBeforeUnmount(leave)
  return { curve, events, state, now, connected, silentFor, strips, draw }
}

export type LiveView = ReturnType<typeof useLiveRun>

/** What a person can see of a change: clocks to a tenth of a second. */
const changed = (a: LiveFrame['state'] | null, b: LiveFrame['state']): boolean =>
  a === null ||
  a.phase !== b.phase ||
  a.rung !== b.rung ||
  a.end !== b.end ||
  Math.floor(4 * a.elapsed) !== Math.floor(4 * b.elapsed) ||
  Math.ceil(a.countdown ?? -1) !== Math.ceil(b.countdown ?? -1)
