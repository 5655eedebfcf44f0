<script setup lang="ts">
/** Said while the sample campaign is on its way in. */
const emit = defineEmits<{ there: [] }>()
const { isLoading } = useSample(() => emit('there'))
</script>

<template>
  <p v-if="isLoading" class="panel text-sm" role="status">
    The sample campaign is being loaded: its files are imported and reduced. What is here grows meanwhile.
  </p>
</template>
