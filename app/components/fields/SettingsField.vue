<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { FILLED } from '~/composables/plan/filledFields'
import { wordsOf, type FormField, type HypometError, type QuantityInput, type UnitPreference } from '@hypomet/core'

/** One setting as its schema describes it; groups, variants and rows hold further ones. */
const props = defineProps<{
  field: FormField
  modelValue: unknown
  path: string
  prefer: UnitPreference
  problem: HypometError | null
  hideLabel?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>()

const filled = inject(FILLED, null)
type Group = Record<string, unknown>
/** What has a value of its own is left empty to take it; it stands in the field, pale. */
const title = computed(
  () =>
    props.field.title +
    (props.field.required || props.field.open || props.field.fallback !== undefined ? '' : ' (optional)'),
)
const usual = computed(() =>
  usualText(props.field.fallback, props.field.type === 'quantity' ? props.field.kind : 'any', props.prefer),
)
const place = computed(() => props.problem?.place.path ?? '')
/** A refusal shows at the field it names; at the group when no part of the group is named. */
const complaint = computed(() =>
  place.value === props.path || (!isNested(props.field) && place.value.startsWith(`${props.path}.`))
    ? props.problem!.message
    : undefined,
)
const isNested = (f: FormField) => f.type === 'group' || f.type === 'rows' || f.type === 'variant'

const quantity = computed(() => props.modelValue as QuantityInput | null)
const group = computed(() => (props.modelValue ?? {}) as Group)
const rows = computed(() => (props.modelValue ?? []) as Group[])
const variant = computed(() =>
  props.field.type === 'variant'
    ? (props.field.options.find(o => o.name === group.value[(props.field as { by: string }).by]) ?? null)
    : null,
)

function setIn(key: string, value: unknown): void {
  const next = { ...group.value, [key]: value }
  if (value === null || value === undefined || value === '') Reflect.deleteProperty(next, key)
  emit('update:modelValue', next)
}
function setRow(i: number, key: string, value: unknown): void {
  const row = { ...rows.value[i], [key]: value }
  if (value === null || value === undefined) Reflect.deleteProperty(row, key)
  emit('update:modelValue', rows.value.with(i, row))
}
const setRows = (next: Group[]) => emit('update:modelValue', next.length === 0 && !props.field.required ? null : next)
</script>

<template>
  <QuantityField
    v-if="field.type === 'quantity'"
    :model-value="quantity"
    :kind="field.kind"
    :label="title"
    :prefer="prefer"
    :optional="!field.required"
    :placeholder="filled?.[path] ?? usual"
    :problem="complaint"
    :hide-label="hideLabel"
    @update:model-value="emit('update:modelValue', $event)"
  />
  <WindowField
    v-else-if="field.type === 'window'"
    :kind="field.kind"
    :usual="field.fallback"
    :model-value="modelValue"
    :label="title"
    :prefer="prefer"
    :optional="!field.required"
    :problem="complaint"
    :hide-label="hideLabel"
    @update:model-value="emit('update:modelValue', $event)"
  />
  <QuantitiesField
    v-else-if="field.type === 'quantities'"
    :model-value="modelValue"
    :kind="field.kind"
    :or-one="field.orOne"
    :label="title"
    :prefer="prefer"
    :problem="complaint"
    :hide-label="hideLabel"
    @update:model-value="emit('update:modelValue', $event)"
  />
  <ListsField
    v-else-if="field.type === 'lists'"
    :model-value="modelValue"
    :kind="field.kind"
    :label="title"
    :prefer="prefer"
    :problem="complaint"
    @update:model-value="emit('update:modelValue', $event)"
  />
  <PlainField
    v-else-if="field.type === 'words'"
    :model-value="((modelValue ?? []) as string[]).join('; ')"
    :label="title"
    :hide-label="hideLabel"
    :problem="complaint"
    @update:model-value="
      emit(
        'update:modelValue',
        $event.trim() === ''
          ? null
          : $event
              .split(/[;,]/)
              .map(w => w.trim())
              .filter(Boolean),
      )
    "
  />
  <label v-else-if="field.type === 'choice'" class="block">
    <span class="label">{{ title }}</span>
    <select
      class="field"
      :value="modelValue ?? field.fallback ?? ''"
      @change="emit('update:modelValue', ($event.target as HTMLSelectElement).value || null)"
    >
      <option v-if="field.fallback === undefined" value="">–</option>
      <option v-for="o in field.options" :key="o" :value="o">{{ wordsOf(o) }}</option>
    </select>
    <span v-if="complaint" class="problem block">{{ complaint }}</span>
  </label>
  <label v-else-if="field.type === 'flag'" class="flex items-center gap-2"
    ><input
      type="checkbox"
      :checked="modelValue === true"
      @change="emit('update:modelValue', ($event.target as HTMLInputElement).checked)"
    />{{ field.title }}</label
  >
  <PlainField
    v-else-if="field.type === 'text'"
    :model-value="String(modelValue ?? '')"
    :label="title"
    :hide-label="hideLabel"
    :problem="complaint"
    @update:model-value="emit('update:modelValue', $event || null)"
  />
  <ColumnsField
    v-else-if="field.type === 'columns'"
    :model-value="modelValue"
    :label="title"
    :problem="complaint"
    @update:model-value="emit('update:modelValue', $event)"
  />
  <fieldset v-else-if="field.type === 'rows'" class="min-w-0">
    <legend class="label">{{ title }}</legend>
    <table v-if="rows.length > 0" class="w-full">
      <thead>
        <tr>
          <th v-for="c in field.columns" :key="c.key" class="px-0.5 text-left text-2xs font-normal text-quiet">
            {{ c.title }}
          </th>
          <th><span class="sr-only">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in rows" :key="i" class="align-top">
          <td v-for="c in field.columns" :key="c.key" class="p-0.5">
            <SettingsField
              :field="{ ...c, title: `${c.title} ${i + 1}` }"
              :model-value="row[c.key]"
              :path="`${path}.${i}.${c.key}`"
              :prefer="prefer"
              :problem="problem"
              hide-label
              @update:model-value="setRow(i, c.key, $event)"
            />
          </td>
          <td class="py-0.5">
            <button
              type="button"
              class="button px-1 py-1.5"
              :aria-label="`Remove ${field.title.toLowerCase()} ${i + 1}`"
              @click="setRows(rows.toSpliced(i, 1))"
            >
              <X class="size-3.5" aria-hidden="true" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <button type="button" class="button mt-1 px-1.5 text-xs" @click="setRows([...rows, {}])">
      <Plus class="size-3.5" aria-hidden="true" />Add to {{ field.title.toLowerCase() }}
    </button>
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </fieldset>
  <fieldset v-else-if="field.type === 'variant'" class="min-w-0 space-y-2">
    <label class="block"
      ><span class="label">{{ wordsOf(field.by) }}</span>
      <select
        class="field"
        :value="variant?.name ?? ''"
        @change="
          emit('update:modelValue', { [(field as { by: string }).by]: ($event.target as HTMLSelectElement).value })
        "
      >
        <option v-if="!variant" value="">–</option>
        <option v-for="o in field.options" :key="o.name" :value="o.name">{{ wordsOf(o.name) }}</option>
      </select>
    </label>
    <SettingsField
      v-for="f in variant?.fields ?? []"
      :key="f.key"
      :field="f"
      :model-value="group[f.key]"
      :path="`${path}.${f.key}`"
      :prefer="prefer"
      :problem="problem"
      @update:model-value="setIn(f.key, $event)"
    />
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </fieldset>
  <fieldset v-else-if="field.type === 'group'" class="min-w-0">
    <legend v-if="!hideLabel" class="label">{{ field.title }}</legend>
    <button
      v-if="!field.required && modelValue == null"
      type="button"
      class="button px-1.5 text-xs"
      @click="emit('update:modelValue', {})"
    >
      <Plus class="size-3.5" aria-hidden="true" />{{ field.title }}
    </button>
    <div v-else :class="hideLabel ? 'space-y-2' : 'space-y-2 border-l-2 border-line pl-2'">
      <SettingsField
        v-for="f in field.fields"
        :key="f.key"
        :field="f"
        :model-value="group[f.key]"
        :path="`${path}.${f.key}`"
        :prefer="prefer"
        :problem="problem"
        @update:model-value="setIn(f.key, $event)"
      />
      <button
        v-if="!field.required && !hideLabel"
        type="button"
        class="button px-1.5 text-xs"
        @click="emit('update:modelValue', null)"
      >
        Leave out
      </button>
    </div>
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </fieldset>
  <FreeField
    v-else
    :model-value="modelValue"
    :label="title"
    :problem="complaint"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>
