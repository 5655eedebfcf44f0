import {
  HypometError,
  isHypometError,
  planProblems,
  viewPlanOf,
  type ChannelView,
  type PlanView,
  type QuantityInput,
  type SensorSpecification,
  type ViewedPlan,
} from '@hypomet/core'

export interface ChannelDraft {
  role: string
  label: string
  kind: ChannelView['kind']
  type?: string
  x?: QuantityInput
  place?: string
  expected?: QuantityInput
  checkValue?: QuantityInput
  sensorId: number | null
  rateClass?: string
  twin?: string
  expression?: string
  cost?: number
}

export interface RungDraft {
  target: QuantityInput
  also?: QuantityInput[]
  hold: QuantityInput
  ramp?: QuantityInput
  cycles?: number
  decision?: boolean
  support?: 'in' | 'out'
  note?: string
}

/** A plan as it is entered: loosely typed here, checked by its kind of test's own schema on every change. */
export interface PlanDraft {
  [key: string]: unknown
  loading: { kind: string; [key: string]: unknown }
  rungs: RungDraft[]
  channels: ChannelDraft[]
}

/** A copy without the proxies of whoever gave it; plans are plain JSON. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/**
 * The plan being edited: everything that follows from it at once, undo for every edit, and saving by itself once it
 * holds together. While it does not, what followed from the last sound one stays in sight.
 */
export function usePlanDraft(initial: PlanDraft) {
  const { page, store, units, expectedPlaces } = useTest()
  const fixed = computed(() => page.value.runs.length > 0 || page.value.test.planState === 'released')
  const draft = ref<PlanDraft>(copyOf(initial))
  const history = useRefHistory(draft, { deep: true, capacity: 200 })
  const sensors = computed<Record<number, SensorSpecification>>(() =>
    Object.fromEntries(page.value.sensors.map(s => [s.id, s.si])),
  )
  const { problem: saveProblem, run } = useAction()

  const checked = computed((): { viewed: ViewedPlan | null; problems: HypometError[] } => {
    const { family } = page.value.test
    try {
      return {
        viewed: viewPlanOf(family, draft.value, page.value.revision.properties, sensors.value, {
          prefer: units.prefer.value,
          expectedPlaces: expectedPlaces.value,
          predicted: page.value.predictions.map(({ quantity, value }) => ({ quantity, value })),
        }),
        problems: [],
      }
    } catch (e) {
      if (!isHypometError(e)) throw e
      const all = planProblems(family, draft.value)
      return { viewed: null, problems: all.length > 0 ? all : [e] }
    }
  })
  const viewed = shallowRef<ViewedPlan | null>(null)
  watch(
    checked,
    c => {
      if (c.viewed) viewed.value = c.viewed
    },
    { immediate: true },
  )
  const view = computed<PlanView | null>(() => viewed.value?.view ?? null)
  const problems = computed(() => checked.value.problems)
  const problemAt = (path: string) => problems.value.find(p => p.place.path === path)?.message

  const saved = ref(true)
  let edit = page.value.test.planEdit
  const kept = `hypomet-plan-${page.value.test.id}`
  const save = useDebounceFn(
    () =>
      run(async () => {
        if (!checked.value.viewed || fixed.value) return
        const text = JSON.stringify(draft.value)
        ;({ edit } = await store.savePlan(draft.value, edit))
        if (text === JSON.stringify(draft.value)) {
          saved.value = true
          sessionStorage.removeItem(kept)
        }
        await store.refresh()
      }),
    400,
  )
  onMounted(() => {
    const unsaved = fixed.value ? null : sessionStorage.getItem(kept)
    if (unsaved) draft.value = JSON.parse(unsaved) as PlanDraft
    // A first plan is one from the start: its checklist is there without an edit. Data that exists was not planned.
    else if (page.value.test.plan === null && page.value.datasets.length === 0) void save()
  })
  watch(
    draft,
    () => {
      if (fixed.value) return
      sessionStorage.setItem(kept, JSON.stringify(draft.value))
      saved.value = false
      void save()
    },
    { deep: true },
  )

  /** Takes what somebody else saved meanwhile. */
  function takeTheirs(): void {
    saveProblem.value = null
    edit = page.value.test.planEdit
    draft.value = copyOf(page.value.test.plan as PlanDraft)
  }

  return {
    draft,
    viewed,
    view,
    problems,
    problemAt,
    history,
    saved,
    saveProblem,
    fixed,
    takeTheirs,
    editCount: () => edit,
  }
}
