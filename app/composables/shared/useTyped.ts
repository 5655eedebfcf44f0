/**
 * Text as it is being typed: it follows its source, but is never put back by a page that draws itself anew meanwhile.
 */
export function useTyped(source: () => string) {
  const typed = ref(source())
  watch(source, text => (typed.value = text))
  return typed
}
