<script setup lang="ts">
/** Data that exists already: a file, or rows as they were written down. It waits for no checklist. */
defineProps<{ isReady?: boolean }>()
</script>

<template>
  <section class="space-y-3" aria-label="Data that exists">
    <p v-if="!isReady" class="text-sm text-quiet">
      Data recorded elsewhere needs no checklist; that readiness was not recorded stands with the run, and in Judge.
    </p>
    <ImportPanel />
    <TypedRows />
  </section>
</template>
