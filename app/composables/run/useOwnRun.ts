/** The run that an abort on this page speaks to: its console’s, else its test’s, else the only one that is on. */
export function useOwnRun() {
  const rig = useRigStore()
  const route = useRoute()
  const testId = computed(() => Number(/^\/tests\/(\d+)\/run$/.exec(route.path)?.[1] ?? 0))
  const on = computed(() => rig.going.filter(g => g.phase !== 'ended'))
  const runs = computed(() => on.value.filter(g => !g.isRehearsal))
  const own = computed((): number | null => {
    // A console knows its run before the band has heard of it.
    if (rig.onConsole !== null) return rig.onConsole
    const ofPage = on.value.filter(g => g.testId === testId.value)
    const only = runs.value.length === 1 ? runs.value[0] : undefined
    return (ofPage.find(g => !g.isRehearsal) ?? ofPage[0] ?? only)?.runId ?? null
  })
  return { own, runs, testId }
}
