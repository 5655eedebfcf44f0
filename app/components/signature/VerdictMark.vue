<script setup lang="ts">
import type { Verdict } from '@hypomet/core'

/** A verdict by shape and word, never by colour alone: clear of the wall, across it, past it. */
defineProps<{ verdict: Verdict; compact?: boolean }>()

const words: Record<Verdict, string> = { pass: 'Pass', undecided: 'Undecided', fail: 'Fail' }
const inks: Record<Verdict, string> = { pass: 'text-pass', undecided: 'text-open', fail: 'text-fail' }
</script>

<template>
  <span :class="['inline-flex items-center gap-1 font-semibold', inks[verdict]]">
    <svg viewBox="0 0 16 16" class="size-4" aria-hidden="true" fill="none" stroke="currentColor" stroke-width="2">
      <path d="M12 1v14" />
      <template v-if="verdict === 'pass'"><path d="M6 4v8" stroke-width="3" /></template>
      <template v-else-if="verdict === 'undecided'"><path d="M4 8h11M4 5v6M15 5v6" stroke-dasharray="2 1" /></template>
      <template v-else><path d="M1 8h14M15 4v8" /></template>
    </svg>
    <span :class="compact ? 'sr-only' : ''">{{ words[verdict] }}</span>
  </span>
</template>
