<script setup lang="ts">
import type { Kind, QuantityInput, UnitPreference } from '@hypomet/core'

/**
 * A window: from and to, each typed with its unit. It counts once both are there; until then what is usual stands there
 * pale.
 */
const props = defineProps<{
  modelValue: unknown
  label: string
  kind?: Kind
  usual?: unknown
  prefer: UnitPreference
  optional?: boolean
  problem?: string | undefined
  hideLabel?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: [QuantityInput, QuantityInput] | null] }>()

const written = () => (Array.isArray(props.modelValue) ? [...(props.modelValue as QuantityInput[])] : [null, null])
const units = useUnits(() => 'metric')
const usualAt = (edge: 0 | 1) =>
  Array.isArray(props.usual) && typeof props.usual[edge] === 'number'
    ? units.show(props.usual[edge], props.kind ?? 'time', { prefer: props.prefer, digits: 3 })
    : ''
const edges = ref<(QuantityInput | null)[]>(written())
watch(
  () => props.modelValue,
  () => {
    edges.value = written()
  },
)
function put(edge: 0 | 1, q: QuantityInput | null): void {
  edges.value = edges.value.with(edge, q)
  // Where one edge is typed, the other is the usual one.
  const usual = Array.isArray(props.usual) && q !== null ? (props.usual as QuantityInput[]) : []
  const [from, to] = edges.value.map((e, i) => e ?? usual[i] ?? null)
  if (from != null && to != null) emit('update:modelValue', [from, to])
  else if (from == null && to == null) emit('update:modelValue', null)
}
</script>

<template>
  <fieldset class="min-w-0">
    <legend :class="hideLabel ? 'sr-only' : 'label'">{{ label }}</legend>
    <div class="flex items-start gap-1.5">
      <QuantityField
        hide-label
        :label="`${label}, from`"
        :kind="kind ?? 'time'"
        :placeholder="usualAt(0)"
        :prefer="prefer"
        optional
        :model-value="edges[0]"
        @update:model-value="put(0, $event)"
      />
      <span class="py-1.5 text-quiet">to</span>
      <QuantityField
        hide-label
        :label="`${label}, to`"
        :kind="kind ?? 'time'"
        :placeholder="usualAt(1)"
        :prefer="prefer"
        optional
        :model-value="edges[1]"
        @update:model-value="put(1, $event)"
      />
    </div>
    <p v-if="problem" class="problem">{{ problem }}</p>
  </fieldset>
</template>
