import type { LiveEvent } from '../../server/db/schema'
import type { LiveFrame } from '../../server/live/run'

const MOST_POINTS = 4000

/** Follows a run: history first, then every frame; comes back by itself when the line drops. */
export function useLiveRun(runId: Ref<number | null>, onClosed: () => void) {
  const t = shallowRef<number[]>([])
  const commanded = shallowRef<number[]>([])
  const read = shallowRef<number[]>([])
  const events = ref<LiveEvent[]>([])
  const state = ref<LiveFrame['state'] | null>(null)
  const latest = shallowRef<LiveFrame['latest']>({})
  const controller = ref('')
  const connected = ref(false)
  let socket: WebSocket | null = null
  let retry: ReturnType<typeof setTimeout> | undefined

  function connect(id: number): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws'
    let isFirst = true
    socket = new WebSocket(`${scheme}://${location.host}/_live?run=${id}`)
    socket.onopen = () => { connected.value = true }
    socket.onmessage = message => {
      take(JSON.parse(message.data as string) as LiveFrame, isFirst)
      isFirst = false
    }
    socket.onclose = () => {
      connected.value = false
      if (runId.value === id) retry = setTimeout(() => connect(id), 1000)
    }
  }

  function take(frame: LiveFrame, isHistory: boolean): void {
    const join = (old: number[], added: number[]) => (isHistory ? added : old.length + added.length > MOST_POINTS ? [...old.filter((_, i) => i % 2 === 0), ...added] : [...old, ...added])
    if (frame.t.length > 0 || isHistory) {
      t.value = join(t.value, frame.t)
      commanded.value = join(commanded.value, frame.commanded)
      read.value = join(read.value, frame.read)
    }
    events.value = isHistory ? frame.events : [...events.value, ...frame.events]
    state.value = frame.state
    latest.value = frame.latest
    controller.value = frame.controller
    if (frame.closed) {
      leave()
      onClosed()
    }
  }

  function leave(): void {
    clearTimeout(retry)
    if (socket) socket.onclose = null
    socket?.close()
    socket = null
    connected.value = false
  }

  onMounted(() => watch(runId, id => {
    leave()
    if (id !== null) connect(id)
  }, { immediate: true }))
  onBeforeUnmount(leave)
  return { t, commanded, read, events, state, latest, controller, connected }
}
