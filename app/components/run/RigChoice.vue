<script setup lang="ts">
import { FAULT_KINDS } from '@hypomet/core'
import type { RigChoice } from '~/composables/run/useRigChoice'

/** Pace, seed and surprise of the simulated rig. */
const props = defineProps<{ choice: RigChoice }>()
const { pace, seed, surprise, role, after, channels, ofChannel } = props.choice
const words = (kind: keyof typeof FAULT_KINDS) =>
  `${FAULT_KINDS[kind].of === 'rig' ? 'the rig' : 'a channel'} ${FAULT_KINDS[kind].words.split(':')[0]}`
</script>

<template>
  <div class="flex flex-wrap items-end gap-3">
    <label
      ><span class="label">Pace</span
      ><select v-model="pace" class="field">
        <option :value="1">as at the rig</option>
        <option :value="5">5 times as fast</option>
        <option :value="20">20 times as fast</option>
      </select></label
    >
    <label
      ><span class="label">Seed of the article</span
      ><input v-model.number="seed" class="field w-24" type="number" step="1"
    /></label>
    <label
      ><span class="label">Surprise</span
      ><select v-model="surprise" class="field max-w-72">
        <option value="none">none</option>
        <option value="drawn">drawn from the seed, not told</option>
        <option v-for="(_, kind) in FAULT_KINDS" :key="kind" :value="kind">{{ words(kind) }}</option>
      </select></label
    >
    <label v-if="ofChannel"
      ><span class="label">Channel</span
      ><select v-model="role" class="field">
        <option v-for="c in channels" :key="c.role" :value="c.role">{{ c.label }}</option>
      </select></label
    >
    <label v-if="surprise !== 'drawn' && surprise !== 'none'"
      ><span class="label">After, s</span><input v-model.number="after" class="field w-20" type="number" min="0"
    /></label>
  </div>
</template>
