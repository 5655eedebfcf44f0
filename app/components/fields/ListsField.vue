<script setup lang="ts">
import {
  isHypometError,
  parseAnyQuantity,
  parseQuantity,
  readNumber,
  preferredUnit,
  writeNumber,
  type Kind,
  type QuantityInput,
  type UnitPreference,
} from '@hypomet/core'

/** Lists of quantities, a line each, as copied from a sheet. */
const props = defineProps<{
  modelValue: unknown
  kind: Kind | 'any'
  label: string
  prefer: UnitPreference
  problem?: string | undefined
}>()
const emit = defineEmits<{ 'update:modelValue': [value: QuantityInput[][] | null] }>()
const id = useId()
const refused = ref('')
const style = () => props.prefer.numbers
const written = (q: QuantityInput) =>
  typeof q === 'number' ? writeNumber(q, style()) : `${writeNumber(q.value, style())} ${q.unit}`
const typed = useTyped(() =>
  ((props.modelValue ?? []) as QuantityInput[][]).map(line => line.map(written).join('; ')).join('\n'),
)

function read(text: string): QuantityInput {
  const plain = readNumber(text, style())
  if (plain?.rest.trim() === '') return plain.value
  return props.kind === 'any'
    ? parseAnyQuantity(text, style())
    : parseQuantity(text, props.kind, preferredUnit(props.kind, props), style())
}
function take(text: string): void {
  refused.value = ''
  try {
    const lines = text
      .split(/\r?\n/)
      .map(l =>
        l
          .split(/[;\t]+|,\s+/)
          .map(c => c.trim())
          .filter(Boolean),
      )
      .filter(l => l.length > 0)
    emit('update:modelValue', lines.length === 0 ? null : lines.map(l => l.map(read)))
  } catch (e) {
    if (!isHypometError(e)) throw e
    refused.value = e.message
  }
}
const complaint = computed(() => refused.value || props.problem || '')
</script>

<template>
  <div>
    <label :for="id" class="label">{{ label }}: a line each, in SI or with units</label>
    <textarea
      :id="id"
      v-model="typed"
      class="field"
      rows="3"
      placeholder="one; two"
      spellcheck="false"
      :aria-invalid="complaint !== ''"
      @change="take(typed)"
    />
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </div>
</template>
