<script setup lang="ts" generic="T extends string">
import { RadioGroup, RadioGroupLabel, RadioGroupOption } from '@headlessui/vue'

/** One of a few, side by side: what is shown below it changes with it. */
defineProps<{ label: string; choices: readonly { value: T; title: string }[] }>()
const chosen = defineModel<T>({ required: true })
</script>

<template>
  <RadioGroup v-model="chosen" class="flex flex-wrap items-center gap-1">
    <RadioGroupLabel class="sr-only">{{ label }}</RadioGroupLabel>
    <RadioGroupOption v-for="c in choices" :key="c.value" v-slot="{ checked }" as="template" :value="c.value"
      ><button
        type="button"
        :class="[
          'rounded px-2 py-0.5 text-sm',
          checked ? 'bg-accent-soft font-semibold text-ink' : 'text-quiet hover:text-ink',
        ]"
      >
        {{ c.title }}
      </button></RadioGroupOption
    >
  </RadioGroup>
</template>
