import { del, get, set } from 'idb-keyval'

const KEPT = 'dropped-file'

/** A file that was dropped somewhere, until an import has taken it in; a reload does not lose it. */
const file = shallowRef<File | null>(null)
/** Whether something on the page has it in hand. */
const isShown = ref(false)
let isRestored = false

export function useDroppedFile() {
  /** What the browser will not keep is still there until the page is left. */
  const quietly = (kept: Promise<unknown>) => void kept.catch(() => undefined)
  return {
    file,
    isShown,
    bring(brought: File): void {
      file.value = brought
      quietly(set(KEPT, brought))
    },
    /** It is in, or not wanted. */
    done(): void {
      file.value = null
      quietly(del(KEPT))
    },
    /** What was dropped before the page was loaded anew. */
    async restore(): Promise<void> {
      if (isRestored || import.meta.server) return
      isRestored = true
      const kept = await get<File>(KEPT).catch(() => undefined)
      if (kept && !file.value) file.value = kept
    },
  }
}

/** While this is on the page it shows the file that was dropped. */
export function useShownFile(take: (file: File) => unknown): void {
  const dropped = useDroppedFile()
  onMounted(() => {
    dropped.isShown.value = true
    watch(dropped.file, now => now && take(now), { immediate: true })
  })
  onBeforeUnmount(() => {
    dropped.isShown.value = false
  })
}
