/** Who waits for a name: an answer goes on with what was begun, none lets it be. */
const waiting = shallowRef<((name: string | null) => void) | null>(null)

/** Asks who is at the keyboard, once, before the first change that bears a name. */
export const useAskedName = () => ({
  isAsked: computed(() => waiting.value !== null),
  ask: () =>
    new Promise<string | null>(resolve => {
      const before = waiting.value
      // Two that ask at once get one question, and the same answer.
      waiting.value = name => {
        before?.(name)
        resolve(name)
      }
    }),
  answer(name: string | null): void {
    const told = waiting.value
    waiting.value = null
    told?.(name)
  },
})
