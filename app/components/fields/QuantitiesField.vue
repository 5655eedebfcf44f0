<script setup lang="ts">
import {
  inUnit,
  isHypometError,
  parseAnyQuantity,
  parseQuantity,
  preferredUnit,
  writeNumber,
  type Kind,
  type QuantityInput,
  type UnitPreference,
} from '@hypomet/core'

/**
 * Several quantities typed or pasted, divided by semicolons, spaces after a comma or lines. A unit after the last
 * counts for all.
 */
const props = defineProps<{
  modelValue: unknown
  kind: Kind | 'any'
  label: string
  prefer: UnitPreference
  orOne: boolean
  problem?: string | undefined
  hideLabel?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: QuantityInput | QuantityInput[] | null] }>()

const id = useId()
const refused = ref('')
const style = () => props.prefer.numbers
const text = computed(() => {
  const list = (
    Array.isArray(props.modelValue) ? props.modelValue : props.modelValue == null ? [] : [props.modelValue]
  ) as QuantityInput[]
  // Plain numbers are SI; they are shown as the field reads them, in its unit.
  const kind = props.kind
  if (kind !== 'any' && kind !== 'ratio' && list.length > 0 && list.every(q => typeof q === 'number')) {
    const unit = preferredUnit(kind, { prefer: props.prefer })
    return `${list.map(q => writeNumber(Number(inUnit(q, kind, unit).toPrecision(10)), style())).join('; ')} ${unit}`
  }
  return list.map(q => (typeof q === 'number' ? writeNumber(q, style()) : written(q))).join('; ')
})

const written = (q: { value: number; unit: string }): string =>
  `${writeNumber(q.value, style())} ${q.unit}`.replace(/ 1$/, '')
const entries = (typed: string): string[] =>
  typed
    .split(/[;\n\t]+|,\s+/)
    .map(t => t.trim())
    .filter(Boolean)

function take(typed: string): void {
  refused.value = ''
  const parts = entries(typed)
  try {
    const unit = /[^\d.,eE+\-−\s].*$/.exec(parts.at(-1) ?? '')?.[0]
    const fallback = unit ?? (props.kind === 'any' ? '' : preferredUnit(props.kind, { prefer: props.prefer }))
    const list = parts.map(p =>
      props.kind === 'any'
        ? parseAnyQuantity(/^[\d.,eE+\-−]+$/.test(p) ? `${p} ${fallback}` : p, style())
        : plainRatio(parseQuantity(p, props.kind, fallback, style())),
    )
    emit('update:modelValue', list.length === 0 ? null : props.orOne && list.length === 1 ? list[0]! : list)
  } catch (e) {
    if (!isHypometError(e)) throw e
    refused.value = e.message
  }
}
const plainRatio = (q: { value: number; unit: string }): QuantityInput => (q.unit === '1' ? q.value : q)
const typed = useTyped(() => text.value)
const complaint = computed(() => refused.value || props.problem || '')
</script>

<template>
  <div>
    <label :for="id" :class="hideLabel ? 'sr-only' : 'label'">{{ label }}</label>
    <textarea
      :id="id"
      v-model="typed"
      class="field"
      rows="1"
      placeholder="one; two; three"
      spellcheck="false"
      :aria-invalid="complaint !== ''"
      @change="take(typed)"
    />
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </div>
</template>
