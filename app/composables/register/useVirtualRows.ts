import { useWindowVirtualizer } from '@tanstack/vue-virtual'

/** Short sheets stand whole: a browser's search and a printer find every row. */
const WHOLE = 100
const ROW_HEIGHT = 29

/** The rows of a long table that are in sight, with the heights of what is left out before and after them. */
export function useVirtualRows(count: () => number, table: () => HTMLElement | null) {
  const top = ref(0)
  const placed = () => {
    top.value = (table()?.getBoundingClientRect().top ?? 0) + (import.meta.client ? window.scrollY : 0)
  }
  onMounted(placed)
  const isLong = computed(() => count() > WHOLE)
  watch(isLong, () => nextTick(placed))
  const virtual = useWindowVirtualizer<HTMLElement>(
    computed(() => ({
      count: isLong.value ? count() : 0,
      estimateSize: () => ROW_HEIGHT,
      overscan: 20,
      scrollMargin: top.value,
      initialRect: { width: 1280, height: 800 },
    })),
  )
  const inSight = computed(() => virtual.value.getVirtualItems())
  const rows = computed(() =>
    isLong.value ? inSight.value.map(i => i.index) : Array.from({ length: count() }, (_, i) => i),
  )
  const before = computed(() => (isLong.value ? Math.max(0, (inSight.value[0]?.start ?? top.value) - top.value) : 0))
  const after = computed(() =>
    isLong.value
      ? Math.max(0, virtual.value.getTotalSize() - ((inSight.value.at(-1)?.end ?? top.value) - top.value))
      : 0,
  )
  /** Brings a row into sight before it is focused. */
  async function reach(row: number): Promise<void> {
    await nextTick()
    if (row < 0 || !isLong.value || rows.value.includes(row)) return
    // Its place is an estimate until it stands there: the middle leaves room for that.
    virtual.value.scrollToIndex(row, { align: 'center' })
    await until(() => rows.value.includes(row)).toBe(true, { timeout: 1000 })
    await nextTick()
  }
  const measure = (el: unknown) => {
    if (isLong.value && el instanceof HTMLElement) virtual.value.measureElement(el)
  }
  return { rows, before, after, reach, measure }
}
