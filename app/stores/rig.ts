import { isHypometError } from '@hypomet/core'

type Going = AnswerAt<'GET', '/api/runs/going'>[number]

const LOOK_EVERY = 1000
/** An abort that is not answered within so many ms is said not to be heard, and sent again. */
const ANSWER_WITHIN = 1000
const AGAIN_AFTER = 300

/** What goes on at a rig, as every page knows of it; and aborts, which are sent until they are heard. */
export const useRigStore = defineStore('rig', () => {
  const api = useApi()
  const going = ref<Going[]>([])
  /** Runs whose abort nobody has answered yet, and those whose answer is late. */
  const asked = ref<number[]>([])
  const unheard = ref<number[]>([])
  /** Aborts that were acted on, but are not on the disk yet. */
  const unstored = ref<number[]>([])
  /** Run whose console stands open. */
  const onConsole = ref<number | null>(null)
  const without = (list: number[], id: number) => list.filter(x => x !== id)

  async function look(): Promise<void> {
    try {
      going.value = await api.get('/api/runs/going')
      // A run is closed once all of it is stored.
      unstored.value = unstored.value.filter(id => going.value.some(g => g.runId === id))
    } catch {
      // What went on may go on still: the band stays, and an abort is tried all the same.
    }
  }

  let timer: ReturnType<typeof setInterval> | undefined
  function watchRigs(): void {
    void look()
    timer ??= setInterval(() => void look(), LOOK_EVERY)
  }

  async function abort(runId: number): Promise<void> {
    if (asked.value.includes(runId)) return
    asked.value = [...asked.value, runId]
    const late = setTimeout(() => {
      unheard.value = [...without(unheard.value, runId), runId]
    }, ANSWER_WITHIN)
    for (;;) {
      try {
        const { isStored } = await api.post(`/api/runs/${runId}/command`, { command: 'abort' })
        if (!isStored) unstored.value = [...without(unstored.value, runId), runId]
        break
      } catch (e) {
        // A run that is over needs none.
        if (isRefusal(e)) break
        unheard.value = [...without(unheard.value, runId), runId]
        await new Promise(resolve => setTimeout(resolve, AGAIN_AFTER))
      }
    }
    clearTimeout(late)
    asked.value = without(asked.value, runId)
    unheard.value = without(unheard.value, runId)
    void look()
  }
  return { going, onConsole, unheard, unstored, look, watchRigs, abort }
})

/** The server has heard it, and says why not. */
const isRefusal = (e: unknown): boolean => isHypometError(e) && e.code !== 'unreachable' && e.code !== 'internal'
