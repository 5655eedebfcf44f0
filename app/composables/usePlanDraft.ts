import { isHypometError, parseSettings, settingsErrors, type HypometError, type PlanView, type SensorSpecification } from '@hypomet/core'

/** A plan as it is entered: loosely typed here, checked by the family's own schema on every change. */
export interface PlanDraft {
  [key: string]: unknown
  rungs: { target: unknown; hold: unknown }[]
  channels: { role: string; label: string; kind: string; x?: unknown; expected?: unknown; sensorId: number | null }[]
  loads: { x: unknown; share: unknown }[]
}

/** A copy without the proxies of whoever gave it; plans are plain JSON. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/**
 * The plan being edited: everything that follows from it at once, undo for every edit, and saving by itself once it
 * holds together.
 */
export function usePlanDraft(initial: PlanDraft, fixed: boolean) {
  const { page, family, api, store } = useTest()
  const draft = ref<PlanDraft>(copyOf(initial))
  const history = useRefHistory(draft, { deep: true, capacity: 200 })
  const sensors = computed<Record<number, SensorSpecification>>(() => Object.fromEntries(page.value.sensors.map(s => [s.id, s.si])))
  const { problem: saveProblem, run } = useAction()

  const checked = computed(() => {
    const { stages } = family.value
    const parsed = stages.plan.safeParse(draft.value)
    if (!parsed.success) return { view: null, problems: settingsErrors(parsed.error.issues, draft.value, '') }
    try {
      const article = parseSettings(stages.article, page.value.revision.properties, 'properties')
      return { view: stages.viewPlan(parsed.data, article, sensors.value), problems: [] as HypometError[] }
    } catch (e) {
      if (!isHypometError(e)) throw e
      return { view: null, problems: [e] }
    }
  })
  const view = computed<PlanView | null>(() => checked.value.view)
  const problemAt = (path: string) => checked.value.problems.find(p => p.place.path === path)?.message

  const saved = ref(true)
  const save = useDebounceFn(() => run(async () => {
    if (!view.value) return
    await api.put(`/api/tests/${page.value.test.id}/plan`, draft.value)
    saved.value = true
    sessionStorage.removeItem(`hypomet-plan-${page.value.test.id}`)
    await store.refresh()
  }), 400)
  const kept = `hypomet-plan-${page.value.test.id}`
  onMounted(() => {
    const unsaved = fixed ? null : sessionStorage.getItem(kept)
    if (unsaved) draft.value = JSON.parse(unsaved) as PlanDraft
    // A first plan is one from the start: its checklist is there without an edit.
    else if (page.value.test.plan === null) void save()
  })
  watch(draft, () => {
    if (fixed) return
    sessionStorage.setItem(kept, JSON.stringify(draft.value))
    saved.value = false
    void save()
  }, { deep: true })

  return { draft, view, problems: computed(() => checked.value.problems), problemAt, history, saved, saveProblem }
}
