import { isHypometError, type HypometError } from '@hypomet/core'

/** Runs something that may be refused: whether it is under way, and the refusal to show beside the button. */
export function useAction() {
  const busy = ref(false)
  const problem = shallowRef<HypometError | null>(null)
  async function run<T>(work: () => Promise<T>): Promise<T | undefined> {
    busy.value = true
    problem.value = null
    try {
      return await work()
    } catch (e) {
      if (!isHypometError(e)) throw e
      problem.value = e
      return undefined
    } finally {
      busy.value = false
    }
  }
  return { busy, problem, run }
}
