<script setup lang="ts">
import { OctagonX } from '@lucide/vue'

/** The abort of a run, with its keys on it, wherever it stands: large enough for a glove. */
const props = defineProps<{ runId: number }>()
const rig = useRigStore()
/** Says what it does: where nothing unloads by itself, people do. */
const words = computed(() =>
  rig.going.find(g => g.runId === props.runId)?.unloads === 'people'
    ? 'Abort: write down and warn'
    : 'Abort: unload now',
)
</script>

<template>
  <button type="button" class="button min-h-16 border-fail! px-4 text-lg text-fail!" @click="rig.abort(runId)">
    <OctagonX class="size-6" aria-hidden="true" />{{ words }} <span class="key">x</span><span class="key">F9</span>
  </button>
</template>
