<script setup lang="ts">
import { CircleAlert } from '@lucide/vue'
import type { HypometError } from '@hypomet/core'

const props = defineProps<{ problem: HypometError | null }>()

const where = computed(() => {
  const { file, row, column } = props.problem?.place ?? {}
  return [file, row === undefined ? null : `row ${row}`, column && `column “${column}”`].filter(Boolean).join(', ')
})
</script>

<template>
  <div v-if="problem" role="alert" class="flex gap-2 rounded-md border border-fail px-2 py-1.5 text-sm text-fail">
    <CircleAlert class="mt-0.5 size-4 shrink-0" aria-hidden="true" />
    <div>
      <p>{{ problem.message }}</p>
      <p v-if="where" class="text-xs">{{ where }}</p>
    </div>
  </div>
</template>
