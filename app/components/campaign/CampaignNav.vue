<script setup lang="ts">
defineProps<{ slug: string; current: string }>()
const pages = [
  { id: '', title: 'Overview' },
  { id: 'schedule', title: 'Schedule' },
  { id: 'limit', title: 'Limits' },
  { id: 'prediction', title: 'Predictions' },
  { id: 'constant', title: 'Constants' },
  { id: 'action', title: 'Actions' },
  { id: 'article', title: 'Articles' },
  { id: 'revision', title: 'Revisions' },
  { id: 'test', title: 'Tests' },
  { id: 'learning', title: 'What we learned' },
]
</script>

<template>
  <nav aria-label="Of the campaign" class="no-print flex gap-1 border-b border-line bg-panel px-4">
    <NuxtLink
      v-for="p in pages"
      :key="p.id"
      :to="`/campaigns/${slug}${p.id ? `/${p.id}` : ''}`"
      :aria-current="p.id === current ? 'page' : undefined"
      :class="[
        'border-b-2 px-2.5 py-1.5 text-sm no-underline',
        p.id === current ? 'border-accent font-semibold text-ink' : 'border-transparent text-quiet hover:text-ink',
      ]"
      >{{ p.title }}</NuxtLink
    >
  </nav>
</template>
