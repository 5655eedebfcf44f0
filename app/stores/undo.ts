interface Step {
  step: string
  what: string
}

const KEPT = 'hypomet-undo'
const MOST = 100

/**
 * What this window did and can take back: the server undoes a step as a whole and answers with the step that does it
 * again.
 * Kept for the session, so that it outlives a reload.
 */
export const useUndoStore = defineStore('undo', () => {
  const done = ref<Step[]>([])
  const undone = ref<Step[]>([])
  /** What was last done, in words; and how often anything was: pages watch it to read anew. */
  const said = ref('')
  const changes = ref(0)
  const { busy, problem, run } = useAction()
  const api = useApi()

  function keep(): void {
    sessionStorage.setItem(KEPT, JSON.stringify({ done: done.value.slice(-MOST), undone: undone.value }))
    changes.value++
  }

  /** To be called once the page lives in a browser. */
  function restore(): void {
    const kept = sessionStorage.getItem(KEPT)
    if (!kept) return
    const before = JSON.parse(kept) as { done: Step[]; undone: Step[] }
    done.value = before.done
    undone.value = before.undone
  }

  function did(step: string, what: string): void {
    problem.value = null
    done.value = [...done.value, { step, what }]
    undone.value = []
    said.value = what
    keep()
  }

  /** What is refused cannot be undone later either: it is said, and leaves the list. */
  async function turnLast(from: Ref<Step[]>, to: Ref<Step[]>, word: string): Promise<void> {
    const last = from.value.at(-1)
    if (!last) return
    const turned = await run(() => api.post('/api/undo', { step: last.step }))
    if (!turned && problem.value?.code === 'unreachable') return
    from.value = from.value.slice(0, -1)
    said.value = turned ? `${word}: ${last.what}` : ''
    if (turned) to.value = [...to.value, { step: turned.step, what: last.what }]
    keep()
  }

  // Keys that come quickly are taken one after the other.
  let queue = Promise.resolve()
  const turn = (from: Ref<Step[]>, to: Ref<Step[]>, word: string) =>
    (queue = queue.then(() => turnLast(from, to, word)))

  return {
    done,
    undone,
    said,
    changes,
    busy,
    problem,
    restore,
    did,
    undo: () => turn(done, undone, 'Undone'),
    redo: () => turn(undone, done, 'Done again'),
  }
})
