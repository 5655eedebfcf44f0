<script setup lang="ts">
import { FileUp } from '@lucide/vue'

/** A file that was dropped and that nothing on this page has taken up: it waits, and is never lost on the way. */
const dropped = useDroppedFile()
const { file, isShown } = dropped
onMounted(() => dropped.restore())
</script>

<template>
  <aside
    v-if="file && !isShown"
    class="no-print flex items-center gap-3 border-b border-accent bg-accent-soft px-4 py-1.5 text-sm"
    aria-label="A file waits"
  >
    <FileUp class="size-4 text-accent" aria-hidden="true" />
    <span
      ><span class="font-medium">{{ file.name }}</span> waits to be imported.</span
    >
    <NuxtLink to="/import" class="button text-xs">Which test is it of?</NuxtLink>
    <button type="button" class="button text-xs" @click="dropped.done()">Not wanted</button>
  </aside>
</template>
