<script setup lang="ts">
import { Undo2, X } from '@lucide/vue'

/**
 * What was just done, for a while, with its undo; and why an undo was refused. It stands over the way back in the head
 * of the page, where there is no field.
 */
const undo = useUndoStore()
const shown = ref(false)
const { start } = useTimeoutFn(
  () => {
    shown.value = false
  },
  9000,
  { immediate: false },
)
watch(
  () => [undo.changes, undo.problem],
  () => {
    shown.value = undo.said !== '' || undo.problem !== null
    start()
  },
)
</script>

<template>
  <div aria-live="polite" data-testid="done" class="no-print fixed left-28 top-1 z-30 max-w-[45vw]">
    <div
      v-if="shown"
      class="flex items-center gap-3 rounded-lg border border-line bg-panel px-3 py-0.5 text-sm shadow-lg"
    >
      <span :class="undo.problem ? 'text-fail' : ''">{{
        undo.problem?.message ?? undo.said[0]!.toUpperCase() + undo.said.slice(1)
      }}</span>
      <button
        v-if="undo.done.length > 0 && !undo.problem"
        type="button"
        class="button px-1.5 py-0.5 text-xs"
        aria-label="Undo what was just done"
        :disabled="undo.busy"
        @click="undo.undo()"
      >
        <Undo2 class="size-3.5" aria-hidden="true" />Undo
      </button>
      <button type="button" class="px-1 text-quiet" aria-label="Close this note" @click="shown = false">
        <X class="size-3.5" aria-hidden="true" />
      </button>
    </div>
  </div>
</template>
