/**
 * A draft with the version of the row it was begun on, so that the server can tell whether somebody saved meanwhile.
 */
export interface Kept<T> {
  version: number | null
  value: T
}

/**
 * What is being entered in a form, kept for the session while it is not saved: a reload or a slip of the hand loses
 * nothing.
 *
 * @param key  of the thing that is edited
 */
export function useDraft<T>(key: () => string, state: Ref<T>, version: Ref<number | null>, isTouched: () => boolean) {
  const at = () => `hypomet-form-${key()}`
  const restored = ref(false)

  function restore(): void {
    const kept = sessionStorage.getItem(at())
    restored.value = kept !== null
    if (!kept) return
    const draft = JSON.parse(kept) as Kept<T>
    state.value = draft.value
    version.value = draft.version
  }
  function clear(): void {
    sessionStorage.removeItem(at())
    restored.value = false
  }
  watch(
    state,
    value =>
      isTouched()
        ? sessionStorage.setItem(at(), JSON.stringify({ version: version.value, value } satisfies Kept<T>))
        : sessionStorage.removeItem(at()),
    { deep: true },
  )
  return { restored, restore, clear }
}
