<script setup lang="ts">
import { OctagonX } from '@lucide/vue'

/** The abort of a run, with its keys on it, wherever it stands: large enough for a glove. */
defineProps<{ runId: number }>()
const rig = useRigStore()
</script>

<template>
  <button type="button" class="button min-h-16 border-fail! px-4 text-lg text-fail!" @click="rig.abort(runId)">
    <OctagonX class="size-6" aria-hidden="true" />Abort: unload now <span class="key">x</span
    ><span class="key">F9</span>
  </button>
</template>
