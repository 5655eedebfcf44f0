<script setup lang="ts">
defineProps<{ title: string; text: string; action?: string; to?: string }>()
const emit = defineEmits<{ act: [] }>()
</script>

<template>
  <section class="panel flex flex-col items-start gap-2 p-6">
    <p class="text-lg font-semibold">{{ title }}</p>
    <p class="max-w-prose text-quiet">{{ text }}</p>
    <NuxtLink v-if="to" :to="to" class="button-main">{{ action }}</NuxtLink>
    <button v-else-if="action" type="button" class="button-main" @click="emit('act')">{{ action }}</button>
  </section>
</template>
