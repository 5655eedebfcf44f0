<script setup lang="ts">
import type { Candidate, Trade } from '@hypomet/core'
import { CRITERIA } from '~/composables/change/tradeOf'

/** What counts how much; who comes first, and how far that hangs on the weights. */
const props = defineProps<{ trade: Trade; candidates: readonly Candidate[] }>()
const weights = defineModel<Record<string, number>>({ required: true })
const titleOf = (id: string | null) => props.candidates.find(c => c.id === id)?.title ?? ''
const labelOf = (key: string) => CRITERIA.find(c => c.key === key)?.label.toLowerCase() ?? key
const percent = (share: number) => `${Math.round(100 * share)} %`
const total = computed(() => Object.values(weights.value).reduce((s, w) => s + w, 0))
const first = computed(() => props.trade.options.find(o => o.id === props.trade.winner))
const unknown = computed(() => props.candidates.filter(c => c.cost === null).length)
const upset = computed(() => {
  const by = props.trade.upsetBy
  if (!by) return 'No single weight upsets it.'
  return (
    `“${titleOf(by.winner)}” would come first were ${labelOf(by.criterion)} to count ` +
    `${percent(by.to)} instead of ${percent(by.from)}.`
  )
})
</script>

<template>
  <section class="panel" data-trade>
    <h2 class="mb-1">Weights</h2>
    <div class="grid grid-cols-5 gap-4">
      <label v-for="c in CRITERIA" :key="c.key" class="block"
        ><span class="label flex justify-between gap-1"
          ><span>{{ c.label }}</span
          ><span>{{ total > 0 ? percent((weights[c.key] ?? 0) / total) : '–' }}</span></span
        ><input
          type="range"
          min="0"
          max="10"
          step="1"
          class="w-full accent-[var(--accent)]"
          :value="weights[c.key] ?? 0"
          :aria-label="`Weight of ${c.label.toLowerCase()}`"
          @input="weights = { ...weights, [c.key]: Number(($event.target as HTMLInputElement).value) }"
      /></label>
    </div>
    <p v-if="first" class="mt-2 text-sm">
      <strong>{{ titleOf(first.id) }}</strong> comes first by these weights, and in {{ percent(first.firstIn) }} of all
      weightings.
      <span class="text-quiet"
        >{{ upset }}
        {{
          unknown === candidates.length
            ? 'No cost is said yet: it does not rank them.'
            : unknown > 0
              ? `Of ${unknown} the cost is not said: they count as the dearest.`
              : ''
        }}</span
      >
    </p>
  </section>
</template>
