<script setup lang="ts">
import type { ClockSaid } from '~/composables/import/clockSaid'

/** What is done about a clock that stands still or jumps; nothing of it is guessed. */
const repeats = defineModel<ClockSaid['repeats']>('repeats', { required: true })
const jumps = defineModel<ClockSaid['jumps']>('jumps', { required: true })
</script>

<template>
  <label
    ><span class="label">Repeated stamps</span
    ><select v-model="repeats" class="field">
      <option value="">are refused</option>
      <option value="drop">keep the first row</option>
      <option value="average">average the rows</option>
      <option value="nudge">spread up to the next stamp</option>
    </select></label
  >
  <label
    ><span class="label">Where the clock jumps</span
    ><select v-model="jumps" class="field">
      <option value="">it is refused</option>
      <option value="first">keep the first piece</option>
      <option value="longest">keep the longest piece</option>
      <option value="last">keep the last piece</option>
    </select></label
  >
</template>
