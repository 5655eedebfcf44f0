<script setup lang="ts">
import type { Verdict } from '@hypomet/core'

/** Revisions left to right joined by what changed; above each its mass, beneath it its tests and verdicts. */
export interface ThreadRevision {
  id: number
  label: string
  changed: string
  why: string
  mass: string
  tests: { id: number; title: string; stage: string; words: string; verdicts: { name: string; verdict: Verdict }[] }[]
}

defineProps<{ revisions: ThreadRevision[]; currentId?: number }>()
</script>

<template>
  <ol class="flex items-stretch overflow-x-auto pb-1" aria-label="Revisions, oldest first">
    <li v-for="(r, i) in revisions" :key="r.id" class="flex min-w-0 items-stretch">
      <div v-if="i > 0" class="relative flex w-48 shrink-0 flex-col justify-start pt-1">
        <p class="px-3 text-xs leading-snug" :title="r.why">{{ r.changed || 'no change written down' }}</p>
        <p class="mt-0.5 line-clamp-2 px-3 text-xs text-quiet">{{ r.why }}</p>
        <span class="absolute inset-x-0 top-[5.2rem] h-0.5 bg-accent" aria-hidden="true" />
      </div>
      <article :class="['w-72 shrink-0 rounded-lg border bg-panel', r.id === currentId ? 'border-accent' : 'border-line']">
        <header class="flex items-baseline justify-between border-b border-line px-3 py-1.5">
          <h3 class="text-lg font-bold"><span class="sr-only">Revision </span>{{ r.label }}</h3>
          <span class="text-sm text-quiet">{{ r.mass }}</span>
        </header>
        <ul v-if="r.tests.length > 0" class="divide-y divide-line">
          <li v-for="t in r.tests" :key="t.id" class="px-3 py-2">
            <NuxtLink :to="`/tests/${t.id}/${t.stage}`" class="font-medium">{{ t.title }}</NuxtLink>
            <p class="text-xs text-quiet">{{ t.words }}</p>
            <ul v-if="t.verdicts.length > 0" class="mt-1 space-y-0.5">
              <li v-for="v in t.verdicts" :key="v.name" class="flex justify-between text-xs"><span>{{ v.name }}</span><VerdictMark :verdict="v.verdict" /></li>
            </ul>
          </li>
        </ul>
        <p v-else class="px-3 py-2 text-xs text-quiet">No test yet.</p>
        <slot name="below" :revision="r" />
      </article>
    </li>
  </ol>
</template>
