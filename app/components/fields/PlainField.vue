<script setup lang="ts">
/** A line of text that is taken when it is left. */
const props = defineProps<{ modelValue: string; label: string; hideLabel?: boolean; problem?: string | undefined }>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const id = useId()
const typed = useTyped(() => props.modelValue)
</script>

<template>
  <div>
    <label :for="id" :class="hideLabel ? 'sr-only' : 'label'">{{ label }}</label>
    <input
      :id="id"
      v-model="typed"
      class="field"
      autocomplete="off"
      spellcheck="false"
      :aria-invalid="!!problem"
      @change="emit('update:modelValue', typed)"
    />
    <p v-if="problem" class="problem">{{ problem }}</p>
  </div>
</template>
