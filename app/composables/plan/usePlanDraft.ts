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
  /** Hz */
  rate?: number
  twin?: string
  offAfter?: number
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
 * A plan whose channels are looked at as they stand, and are never changed in place: of thousands of them nothing has
 * to be followed one by one.
 */
const withPlainChannels = (plan: PlanDraft): PlanDraft => {
  for (const c of plan.channels ?? []) markRaw(c)
  return plan
}
/** From so many channels on, what follows is worked out when a hand rests. */
const MANY = 500
const RESTS_MS = 300

/**
 * The plan being edited: everything that follows from it at once, undo for every edit, and saving by itself once it
 * holds together. While it does not, what followed from the last sound one stays in sight.
 */
export function usePlanDraft(initial: PlanDraft) {
  const { page, store, units, expectedPlaces } = useTest()
  const fixed = computed(() => page.value.runs.length > 0 || page.value.test.planState === 'released')
  const draft = ref<PlanDraft>(withPlainChannels(copyOf(initial)))
  const isLarge = () => draft.value.channels.length > MANY
  // Channels are shared between states: an edit makes new ones.
  const history = useRefHistory(draft, {
    deep: true,
    capacity: 200,
    clone: plan => {
      const { channels, ...rest } = toRaw(plan)
      return { ...copyOf(rest), channels: [...toRaw(channels)] } as PlanDraft
    },
  })
  const sensors = computed<Record<number, SensorSpecification>>(() =>
    Object.fromEntries(page.value.sensors.map(s => [s.id, s.si])),
  )
  const { problem: saveProblem, run } = useAction()

  function check(): { viewed: ViewedPlan | null; problems: HypometError[] } {
    const { family } = page.value.test
    try {
      return {
        viewed: viewPlanOf(family, draft.value, page.value.revision.properties, sensors.value, {
          prefer: units.prefer.value,
          facts: page.value.revision.facts,
          limited: page.value.limits,
          expectedPlaces: expectedPlaces.value,
          predicted: page.value.predictions.map(({ quantity, value }) => ({ quantity, value })),
        }),
        problems: [],
      }
    } catch (e) {
      if (!isHypometError(e)) throw e
      const all = planProblems(family, draft.value, page.value.revision.facts)
      return { viewed: null, problems: all.length > 0 ? all : [e] }
    }
  }
  const checked = shallowRef(check())
  const recheck = () => {
    checked.value = check()
  }
  const recheckLater = useDebounceFn(recheck, RESTS_MS)
  // At once where that takes no time; fields of a large plan do not wait for what follows from them.
  watch(
    [
      draft,
      sensors,
      () => units.prefer.value,
      () => page.value.predictions,
      () => page.value.revision,
      () => page.value.limits,
    ],
    () => (isLarge() ? void recheckLater() : recheck()),
    { deep: true, flush: 'sync' },
  )
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

  /** A first plan is not kept yet: it is saved as the page opens. */
  const saved = ref(page.value.test.plan !== null || page.value.datasets.length > 0 || fixed.value)
  let edit = page.value.test.planEdit
  const kept = `hypomet-plan-${page.value.test.id}`
  const save = useDebounceFn(
    () =>
      run(async () => {
        if (isLarge()) recheck()
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
    if (unsaved) draft.value = withPlainChannels(JSON.parse(unsaved) as PlanDraft)
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
    draft.value = withPlainChannels(copyOf(page.value.test.plan as PlanDraft))
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
