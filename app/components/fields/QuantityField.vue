<script setup lang="ts">
import {
  isHypometError,
  parseAnyQuantity,
  parseQuantity,
  preferredUnit,
  readableUnit,
  type Kind,
  type QuantityInput,
  type UnitPreference,
  formatNumber,
  inUnit,
} from '@hypomet/core'

/** A number with its unit, typed as people type it; what was entered is shown back. */
const props = defineProps<{
  modelValue: QuantityInput | null | undefined
  kind: Kind | 'any'
  label: string
  prefer: UnitPreference
  hideLabel?: boolean
  disabled?: boolean
  optional?: boolean
  problem?: string | undefined
  /** A number alone is in the unit that was there. */ keepUnit?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: QuantityInput | null] }>()

const id = useId()
const written = ref(asText(props.modelValue))
const refused = ref('')

watch(
  () => props.modelValue,
  value => {
    if (refused.value === '' && asText(value) !== written.value) written.value = asText(value)
  },
)

function asText(q: QuantityInput | null | undefined): string {
  if (q === null || q === undefined) return ''
  if (props.kind === 'any') return typeof q === 'number' ? String(q) : `${q.value} ${q.unit}`
  const unit = typeof q === 'number' ? readableUnit(q, props.kind, { prefer: props.prefer }) : ''
  const [value, shown] =
    typeof q === 'number'
      ? [
          formatNumber(inUnit(q, props.kind, unit), 6)
            .replace(/(\.\d*?)0+$/, '$1')
            .replace(/\.$/, ''),
          unit,
        ]
      : [String(q.value), q.unit]
  return shown === '1' ? value : `${value} ${shown}`
}

function take(text: string): void {
  written.value = text
  if (text.trim() === '' && props.optional) {
    refused.value = ''
    return void emit('update:modelValue', null)
  }
  try {
    const q =
      props.kind === 'any'
        ? inUnitThere(parseAnyQuantity(text))
        : parseQuantity(
            text,
            props.kind,
            typeof props.modelValue === 'object' && props.modelValue
              ? props.modelValue.unit
              : preferredUnit(props.kind, { prefer: props.prefer }),
          )
    refused.value = ''
    emit('update:modelValue', q)
  } catch (e) {
    if (!isHypometError(e)) throw e
    refused.value = e.message
  }
}

const inUnitThere = (q: QuantityInput): QuantityInput =>
  props.keepUnit && typeof q === 'number' && typeof props.modelValue === 'object' && props.modelValue
    ? { value: q, unit: props.modelValue.unit }
    : q

const complaint = computed(() => refused.value || props.problem || '')
</script>

<template>
  <div>
    <label :for="id" :class="hideLabel ? 'sr-only' : 'label'">{{ label }}</label>
    <input
      :id="id"
      class="field"
      :value="written"
      :disabled="disabled"
      :placeholder="placeholder"
      autocomplete="off"
      :aria-invalid="complaint !== ''"
      :aria-describedby="complaint ? id + 'p' : undefined"
      @input="written = ($event.target as HTMLInputElement).value"
      @change="take(($event.target as HTMLInputElement).value)"
    />
    <p v-if="complaint" :id="id + 'p'" class="problem">{{ complaint }}</p>
  </div>
</template>
