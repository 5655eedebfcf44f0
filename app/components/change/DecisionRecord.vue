<script setup lang="ts">
import { ArrowRight } from '@lucide/vue'

/** What was decided on these results, why, and what else stood there. */
const { page, units } = useTest()
const signed = (kg: number | null) =>
  kg === null ? '' : `${kg >= 0 ? '+' : '−'}${units.show(Math.abs(kg), 'mass', { digits: 3 })}`
</script>

<template>
  <section v-if="page.next || page.decisions.length > 0" class="panel border-accent" data-decisions>
    <div v-if="page.next" class="flex items-center justify-between gap-3">
      <p>
        Revision <strong>{{ page.next.label }}</strong> was decided on these results.
      </p>
      <NuxtLink v-if="page.next.testId" :to="`/tests/${page.next.testId}/plan`" class="button-main"
        >Its test, with the prediction waiting <ArrowRight class="size-4" aria-hidden="true"
      /></NuxtLink>
    </div>
    <ul class="mt-1 text-sm">
      <li v-for="d in page.decisions" :key="d.id" class="border-t border-line/60 py-1">
        <strong>{{ d.chosen.title }}</strong> {{ signed(d.chosen.massChange) }}: {{ d.reasons || 'no reason given' }}
        <span class="text-quiet"
          >· {{ d.by }}, {{ moment(d.createdAt)
          }}{{ d.label === null ? ' · taken back' : ` · revision ${d.label}` }}</span
        >
        <details v-if="d.alternatives.length > 0" class="text-xs text-quiet">
          <summary class="cursor-pointer">
            {{ d.alternatives.length }} other {{ d.alternatives.length === 1 ? 'candidate' : 'candidates' }} stood there
          </summary>
          <span v-for="(a, i) in d.alternatives" :key="a.id"
            >{{ i > 0 ? '; ' : '' }}{{ a.title }} {{ signed(a.massChange) }}</span
          >
        </details>
      </li>
    </ul>
  </section>
</template>
