<script setup lang="ts">
/** A setting that no other field fits, written as JSON. */
const props = defineProps<{ modelValue: unknown; label: string; problem?: string | undefined }>()
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>()
const id = useId()
const refused = ref('')

function take(typed: string): void {
  refused.value = ''
  if (typed.trim() === '') return void emit('update:modelValue', null)
  try {
    emit('update:modelValue', JSON.parse(typed))
  } catch {
    refused.value = 'This is not JSON: quotes, brackets and commas must match.'
  }
}
const typed = useTyped(() => (props.modelValue == null ? '' : JSON.stringify(props.modelValue)))
const complaint = computed(() => refused.value || props.problem || '')
</script>

<template>
  <div>
    <label :for="id" class="label">{{ label }} (JSON)</label>
    <textarea
      :id="id"
      v-model="typed"
      class="field font-mono text-xs"
      rows="3"
      spellcheck="false"
      :aria-invalid="complaint !== ''"
      @change="take(typed)"
    />
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </div>
</template>
