<script setup lang="ts">
import {
  formOf,
  loadings,
  planFields,
  planWithFacts,
  writeFact,
  type Fact,
  planningOf,
  type HypometError,
  type Kind,
  type LoadingKind,
  type PlanView,
  type QuantityInput,
  type SetColumn,
  type UnitPreference,
  STANDARD_GRAVITY,
  wordsOf,
} from '@hypomet/core'
import { FILLED } from '~/composables/plan/filledFields'
import { setPart } from '~/composables/plan/setPart'
import { copyOf, type PlanDraft } from '~/composables/plan/usePlanDraft'

/** How the load is brought in, the numbers of this kind of test, and what is to be set at each rung. */
const draft = defineModel<PlanDraft>({ required: true })
const props = defineProps<{
  view: PlanView | null
  prefer: UnitPreference
  fixed: boolean
  family: string
  problem: HypometError | null
  problemAt: (path: string) => string | undefined
  facts: readonly Fact[]
}>()
/** What the article says stands in the fields that nobody typed in. */
provide(
  FILLED,
  computed(() =>
    Object.fromEntries(
      planWithFacts(props.family, draft.value, props.facts).filled.map(f => [
        f.path,
        `${writeFact(f.value, props.prefer.numbers)}, as of the article`,
      ]),
    ),
  ),
)
const planning = computed(() => planningOf(props.family))
const ways = computed(() => planning.value.loadings.map(k => ({ kind: k, title: loadings[k].title })))
const loading = computed(() => loadings[draft.value.loading.kind as LoadingKind])
const form = computed(() => formOf(loading.value.settings))
const own = computed(() => (planning.value.own ? formOf(planning.value.own) : null))
const ownFields = computed(() => {
  const said = planning.value.inLoading?.[draft.value.loading.kind as LoadingKind] ?? []
  return own.value?.type === 'group' ? own.value.fields.filter(f => !said.includes(f.key)) : []
})
/** A design load that was derived is looked at by somebody; typing another one answers it, too. */
const derived = computed(() => props.view?.findings.find(f => f.code === 'design-derived'))
function setOwn(key: string, value: unknown): void {
  if (key === 'designLoad') set('designFrom', undefined)
  set(key, value)
}
const weight = computed(() => props.view?.mass && { value: props.view.mass * STANDARD_GRAVITY, unit: 'N' })
const capacities = formOf(planFields.capacities)
const set = setPart(draft)
const remembered: Record<string, PlanDraft['loading']> = {}
/** Another way of loading begins with its example; going back finds what was there. */
function change(kind: LoadingKind): void {
  remembered[draft.value.loading.kind] = copyOf(draft.value.loading)
  const begins = planning.value.begins?.[kind]?.settings
  set('loading', remembered[kind] ?? { kind, ...copyOf({ ...loadings[kind].start, ...begins } as object) })
}
/** Each rung as it was entered: its cycles are the same again. */
const atEach = computed((): SetColumn[] => {
  const { rungs, commanded, loading: set } = props.view!
  const first = rungs.flatMap((r, i) => (rungs.findIndex(o => o.source === r.source) === i ? [i] : []))
  return [
    { key: 'target', label: commanded.label, kind: commanded.kind, values: rungs.map(r => r.target) },
    ...set.set,
  ].map(c => ({ ...c, values: first.map(i => c.values[i]!) }))
})
interface Further {
  name: string
  kind: Kind
  capacity?: QuantityInput
}
const further = computed(() => (draft.value['also'] ?? []) as Further[])
const setFurther = (i: number, values: Partial<Further>) =>
  set('also', further.value.with(i, { ...further.value[i]!, ...values }))
const actuatorKinds = [
  'force',
  'pressure',
  'torque',
  'length',
  'angle',
  'temperature',
  'voltage',
  'rotation',
  'mass',
] satisfies Kind[]
</script>

<template>
  <div class="grid grid-cols-[22rem_1fr] gap-4">
    <fieldset class="min-w-0 space-y-3" :disabled="fixed">
      <label class="block"
        ><span class="label">How the load is brought in</span
        ><select
          class="field"
          :value="draft.loading.kind"
          @change="change(($event.target as HTMLSelectElement).value as LoadingKind)"
        >
          <option v-for="w in ways" :key="w.kind" :value="w.kind">{{ w.title }}</option>
        </select></label
      >
      <p class="text-xs text-quiet">{{ loading.purpose }}.</p>
      <SettingsField
        :model-value="draft.loading"
        :field="form"
        path="loading"
        :prefer="prefer"
        :problem="problem"
        hide-label
        @update:model-value="set('loading', { ...($event as object), kind: draft.loading.kind })"
      />
      <div class="grid grid-cols-2 gap-2 border-t border-line pt-2">
        <SettingsField
          v-for="f in ownFields"
          :key="f.key"
          :field="f"
          :model-value="draft[f.key]"
          :path="f.key"
          :prefer="prefer"
          :problem="problem"
          @update:model-value="setOwn(f.key, $event)"
        />
        <p v-if="derived" class="col-span-2 text-xs" data-derived>
          <span class="font-semibold text-open">Check</span> {{ derived.message }}
        </p>
        <div v-if="view?.commanded.kind === 'force'">
          <QuantityField
            :model-value="draft['oneG'] as QuantityInput"
            kind="force"
            :prefer="prefer"
            label="1 g means"
            placeholder="Weight, for loads like 9 g"
            optional
            :problem="problemAt('oneG')"
            @update:model-value="set('oneG', $event)"
          />
          <button
            v-if="weight && !draft['oneG']"
            type="button"
            class="button mt-1 px-1.5 py-0.5 text-xs"
            @click="set('oneG', weight)"
          >
            Weight of the article, {{ setText(weight.value, 'force', prefer) }}
          </button>
        </div>
        <QuantityField
          :model-value="draft['ramp'] as QuantityInput"
          kind="any"
          keep-unit
          :prefer="prefer"
          label="Between rungs"
          :problem="problemAt('ramp')"
          @update:model-value="set('ramp', $event)"
        />
        <QuantityField
          :model-value="draft['rate'] as QuantityInput"
          kind="frequency"
          :prefer="prefer"
          label="Sample rate"
          :problem="problemAt('rate')"
          @update:model-value="set('rate', $event)"
        />
      </div>
      <div class="border-t border-line pt-2">
        <p class="label">Rated capacity</p>
        <div class="grid grid-cols-2 gap-2">
          <template v-if="capacities.type === 'group'"
            ><SettingsField
              v-for="f in capacities.fields"
              :key="f.key"
              :field="f"
              :model-value="(draft['capacities'] as Record<string, unknown> | undefined)?.[f.key]"
              :path="`capacities.${f.key}`"
              :prefer="prefer"
              :problem="problem"
              @update:model-value="
                set('capacities', { ...(draft['capacities'] as object | undefined), [f.key]: $event ?? undefined })
              "
          /></template>
        </div>
      </div>
      <div class="border-t border-line pt-2">
        <p class="label">Further actuators, commanded at each rung</p>
        <div v-for="(a, i) in further" :key="i" class="mb-1 grid grid-cols-[1.3fr_1fr_1fr_auto] items-end gap-1">
          <PlainField
            :model-value="a.name"
            :label="`Actuator ${i + 2}`"
            @update:model-value="setFurther(i, { name: $event })"
          />
          <label
            ><span class="label">Commands</span
            ><select
              class="field"
              :value="a.kind"
              @change="setFurther(i, { kind: ($event.target as HTMLSelectElement).value as Kind })"
            >
              <option v-for="k in actuatorKinds" :key="k" :value="k">{{ wordsOf(k) }}</option>
            </select></label
          >
          <QuantityField
            :model-value="a.capacity"
            :kind="a.kind"
            :prefer="prefer"
            label="Capacity"
            optional
            :problem="problemAt(`also.${i}.capacity`)"
            @update:model-value="setFurther(i, { capacity: $event ?? undefined })"
          />
          <button
            type="button"
            class="button px-1.5 py-1.5 text-xs"
            :aria-label="`Remove ${a.name}`"
            @click="set('also', further.toSpliced(i, 1))"
          >
            ×
          </button>
        </div>
        <button
          type="button"
          class="button px-1.5 text-xs"
          @click="set('also', [...further, { name: `Actuator ${further.length + 2}`, kind: 'force' }])"
        >
          Another actuator
        </button>
      </div>
    </fieldset>
    <div v-if="view" class="min-w-0 space-y-3">
      <dl v-if="view.loading.facts.length > 0" class="flex flex-wrap gap-x-8 gap-y-1">
        <div v-for="f in view.loading.facts" :key="f.label">
          <dt class="text-xs text-quiet">{{ f.label }}</dt>
          <dd class="font-semibold tabular-nums" :data-fact="f.label">{{ setText(f.value, f.kind, prefer) }}</dd>
        </div>
      </dl>
      <SetTable title="At each rung" :columns="atEach" :prefer="prefer" numbered />
      <div class="grid grid-cols-2 gap-3">
        <SetTable
          v-for="t in view.loading.tables"
          :key="t.title"
          :title="t.title"
          :columns="t.columns"
          :prefer="prefer"
        />
      </div>
    </div>
  </div>
</template>
