<script setup lang="ts">
import type { Verdict } from '@hypomet/core'

/** Revisions left to right joined by what changed; above each its mass, beneath it its tests and verdicts. */
export interface ThreadRevision {
  id: number
  label: string
  changed: string
  why: string
  mass: string
  /** Label of the revision it follows. */
  follows?: string | null
  /** The test on whose results it was decided. */
  finding?: { testId: number; title: string; label: string } | null
  tests: {
    id: number
    title: string
    stage: string
    words: string
    /** `coveredBy`: the test that says what this one left open. */
    verdicts: { name: string; verdict: Verdict; coveredBy?: string | null }[]
  }[]
}

defineProps<{ revisions: ThreadRevision[]; currentId?: number; next?: { words: string; to: string } | undefined }>()
</script>

<template>
  <ol class="relative flex items-stretch overflow-x-auto pb-1" aria-label="Revisions, oldest first">
    <li v-for="(r, i) in revisions" :key="r.id" class="flex shrink-0 items-stretch">
      <div v-if="i > 0" class="relative w-52 shrink-0 pt-7">
        <span class="absolute inset-x-0 top-4 h-0.5 bg-accent" aria-hidden="true" />
        <p class="px-3 text-xs leading-snug">
          <span v-if="r.follows && r.follows !== revisions[i - 1]!.label" class="font-semibold"
            >from {{ r.follows }}: </span
          >{{ r.changed || 'no change written down' }}
        </p>
        <p class="mt-1 px-3 text-xs leading-snug text-quiet">{{ r.why }}</p>
        <p v-if="r.finding" class="mt-1 px-3 text-xs leading-snug">
          on <NuxtLink :to="`/tests/${r.finding.testId}/judge`">{{ r.finding.label }}: {{ r.finding.title }}</NuxtLink>
        </p>
      </div>
      <article
        :class="['w-72 shrink-0 rounded-lg border bg-panel', r.id === currentId ? 'border-accent' : 'border-line']"
      >
        <header class="flex items-baseline justify-between border-b border-line px-3 py-1.5">
          <h3 class="text-lg font-bold"><span class="sr-only">Revision </span>{{ r.label }}</h3>
          <span class="text-sm text-quiet">{{ r.mass }}</span>
        </header>
        <ul v-if="r.tests.length > 0" class="divide-y divide-line">
          <li v-for="t in r.tests" :key="t.id" class="px-3 py-2">
            <NuxtLink :to="`/tests/${t.id}/${t.stage}`" class="font-medium">{{ t.title }}</NuxtLink>
            <p class="text-xs text-quiet">{{ t.words }}</p>
            <ul v-if="t.verdicts.length > 0" class="mt-1 space-y-0.5">
              <li v-for="v in t.verdicts" :key="v.name" class="flex justify-between text-xs">
                <span
                  >{{ v.name
                  }}<span v-if="v.coveredBy" class="block text-quiet">settled by {{ v.coveredBy }}</span></span
                ><VerdictMark :verdict="v.verdict" />
              </li>
            </ul>
          </li>
        </ul>
        <p v-else class="px-3 py-2 text-xs text-quiet">No test yet.</p>
        <slot name="below" :revision="r" />
      </article>
    </li>
    <li v-if="next" class="flex items-stretch">
      <div class="relative w-10 shrink-0">
        <span class="absolute inset-x-0 top-4 border-t-2 border-dashed border-quiet" aria-hidden="true" />
      </div>
      <NuxtLink
        :to="next.to"
        class="flex w-44 flex-col items-start justify-center rounded-lg border border-dashed border-quiet px-3 text-sm"
        >{{ next.words }}</NuxtLink
      >
    </li>
  </ol>
</template>
