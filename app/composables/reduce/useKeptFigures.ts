import type { Figure } from '@hypomet/core'

/** Figures that were kept with a reduction, from when they are seen on; none while there is none. */
export function useKeptFigures(id: () => number | null): ComputedRef<Record<string, Figure>> {
  const store = useReductionStore()
  onMounted(() => watch(id, now => now !== null && void store.load(now), { immediate: true }))
  return computed(() => store.figures[id() ?? 0] ?? {})
}
