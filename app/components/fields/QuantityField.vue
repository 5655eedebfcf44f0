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
  formatQuantity,
  inUnit,
  quantityToSi,
  readNumber,
  writeNumber,
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
  const style = props.prefer.numbers
  if (props.kind === 'any')
    return typeof q === 'number' ? writeNumber(q, style) : `${writeNumber(q.value, style)} ${q.unit}`
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
  const number = writeNumber(value, style)
  return shown === '1' ? number : `${number} ${shown}`
}

/** Which of two numbers is meant is asked. */
const isOpen = ref(false)
function take(text: string): void {
  written.value = text
  isOpen.value = false
  if (text.trim() === '' && props.optional) {
    refused.value = ''
    return void emit('update:modelValue', null)
  }
  try {
    const q = readTyped(text)
    refused.value = ''
    emit('update:modelValue', q)
  } catch (e) {
    if (!isHypometError(e)) throw e
    refused.value = e.message
    isOpen.value = e.code === 'number-ambiguous'
  }
}

function readTyped(text: string): QuantityInput {
  const { kind, prefer } = props
  if (kind === 'any') return inUnitThere(parseAnyQuantity(text, prefer.numbers))
  const there = typeof props.modelValue === 'object' && props.modelValue ? props.modelValue.unit : null
  return parseQuantity(text, kind, there ?? preferredUnit(kind, { prefer }), prefer.numbers)
}

/** What is understood while it is typed, in its unit and in the campaign's; empty where it says nothing new. */
const isTyping = ref(false)
const readBack = computed(() => {
  const text = written.value.trim()
  if (!isTyping.value || text === '') return ''
  try {
    const q = readTyped(text)
    if (typeof q === 'number' || props.kind === 'any') return isPlain(text, q) ? '' : `read as ${asText(q)}`
    const own = q.unit === '1' ? writeNumber(q.value, props.prefer.numbers) : asText(q)
    const unit = preferredUnit(props.kind, { prefer: props.prefer })
    if (q.unit === unit) return text === own ? '' : `read as ${own}`
    const si = quantityToSi(q, props.kind)
    return `read as ${own} = ${formatQuantity(si, props.kind, { prefer: props.prefer, digits: 4 })}`
  } catch {
    return ''
  }
})
const isPlain = (text: string, q: QuantityInput) => text === asText(q) || readNumber(text)?.value === Number(text)

const inUnitThere = (q: QuantityInput): QuantityInput =>
  props.keepUnit && typeof q === 'number' && typeof props.modelValue === 'object' && props.modelValue
    ? { value: q, unit: props.modelValue.unit }
    : q

const complaint = computed(() => refused.value || props.problem || '')
</script>

<template>
  <div>
    <div :class="hideLabel ? '' : 'flex items-baseline gap-1.5'">
      <label :for="id" :class="hideLabel ? 'sr-only' : 'label'">{{ label }}</label><span
        v-if="readBack && !hideLabel"
        class="truncate text-2xs text-quiet"
        data-read-back
        >{{ readBack }}</span
      >
    </div>
    <input
      :id="id"
      class="field"
      :value="written"
      :disabled="disabled"
      :placeholder="placeholder"
      autocomplete="off"
      :aria-invalid="complaint !== ''"
      :aria-describedby="complaint ? id + 'p' : undefined"
      @focus="isTyping = true"
      @blur="isTyping = false"
      @input="written = ($event.target as HTMLInputElement).value"
      @change="take(($event.target as HTMLInputElement).value)"
    />
    <p v-if="readBack && hideLabel" class="text-xs text-quiet" data-read-back>{{ readBack }}</p>
    <p v-if="complaint" :id="id + 'p'" class="problem">{{ complaint }}</p>
    <NumberQuestion v-if="isOpen" :text="written" @answered="take(written)" />
  </div>
</template>
