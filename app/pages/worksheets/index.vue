<script setup lang="ts">
import { calcList } from '@hypomet/core'

useTrail().value = [{ name: 'Worksheets' }]
useHead({ title: 'Worksheets · Hypomet' })
const words = ref('')
const found = computed(() =>
  calcList.filter(c =>
    words.value
      .toLowerCase()
      .split(/\s+/)
      .every(w => `${c.title} ${c.purpose}`.toLowerCase().includes(w)),
  ),
)
</script>

<template>
  <main class="mx-auto w-full max-w-6xl flex-1 space-y-3 p-4">
    <div class="flex items-center justify-between gap-4">
      <h1>Worksheets</h1>
      <label class="w-72"
        ><span class="sr-only">Find a calculation</span
        ><input v-model="words" class="field" type="search" placeholder="Find a calculation"
      /></label>
    </div>
    <p class="text-sm text-quiet">
      Each calculation on its own, for the quick answer. What you enter stays in this browser.
    </p>
    <ul class="grid gap-2 md:grid-cols-2 lg:grid-cols-3">
      <li v-for="c in found" :key="c.id">
        <NuxtLink :to="`/worksheets/${c.id}`" class="panel block h-full text-ink no-underline hover:border-accent">
          <span class="block font-semibold">{{ c.title }}</span>
          <span class="block text-sm text-quiet">{{ c.purpose }}</span>
          <span v-if="c.roles" class="mt-1 block text-xs text-quiet">reads a logger’s file</span>
        </NuxtLink>
      </li>
    </ul>
    <p v-if="found.length === 0" class="text-sm text-quiet">No calculation by these words.</p>
  </main>
</template>
