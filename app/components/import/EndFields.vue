<script setup lang="ts">
import { RUN_ENDS, type RunEnd } from '~/composables/run/runEnds'

/** How a test ended that was not run here, and of a break how and where. */
defineProps<{ label: string }>()
const end = defineModel<RunEnd>({ required: true })
const mode = defineModel<string>('mode', { required: true })
const place = defineModel<string>('place', { required: true })
</script>

<template>
  <label class="grow"
    ><span class="label">{{ label }}</span
    ><select v-model="end" class="field">
      <option v-for="e in RUN_ENDS" :key="e.value" :value="e.value">{{ e.label }}</option>
    </select></label
  ><BreakFields
    v-if="end === 'article broke' || end === 'fixture gave way'"
    v-model:mode="mode"
    v-model:place="place"
    class="grow"
  />
</template>
