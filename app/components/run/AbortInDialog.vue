<script setup lang="ts">
/** The abort of what runs, above the shade of a dialog and where the console has it. */
const { own } = useOwnRun()
</script>

<template>
  <div v-if="own !== null" class="no-print fixed right-3 bottom-2">
    <AbortButton class="min-w-83 bg-panel!" :run-id="own" />
  </div>
</template>
