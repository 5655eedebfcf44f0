<script setup lang="ts">
import { useField } from 'vee-validate'

/** A labelled field of the form around it. */
const props = defineProps<{
  name: string
  label: string
  type?: string
  placeholder?: string
  options?: { value: string; label: string }[]
}>()
const { value, errorMessage, handleBlur } = useField<string>(() => props.name)
const id = useId()
</script>

<template>
  <div>
    <label :for="id" class="label">{{ label }}</label>
    <select v-if="options" :id="id" v-model="value" class="field" :aria-invalid="!!errorMessage" @blur="handleBlur">
      <option v-for="o in options" :key="o.value" :value="o.value">{{ o.label }}</option>
    </select>
    <input
      v-else
      :id="id"
      v-model="value"
      class="field"
      :type="type ?? 'text'"
      :placeholder="placeholder"
      autocomplete="off"
      :aria-invalid="!!errorMessage"
      :aria-describedby="errorMessage ? id + 'p' : undefined"
      @blur="handleBlur"
    />
    <p v-if="errorMessage" :id="id + 'p'" class="problem">{{ errorMessage }}</p>
  </div>
</template>
