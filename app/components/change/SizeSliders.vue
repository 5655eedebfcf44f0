<script setup lang="ts">
import type { Candidate, QuantityInput, SizingDimension, Sizes } from '@hypomet/core'
import { madeSizes } from '~/composables/change/madeSizes'
import type { LimitRow } from '~/types/api'

/** Free sizes to be drawn by hand or typed: all rails move at once. */
const props = defineProps<{
  dimensions: readonly SizingDimension[]
  chosen: Candidate | null
  limits: readonly LimitRow[]
  mayTake: boolean
}>()
const emit = defineEmits<{ at: [sizes: Sizes]; take: [candidate: Candidate] }>()
const { units } = useTest()
const sizes = reactive<Record<string, number>>({})
watch(
  () => props.dimensions,
  list => {
    for (const d of list) sizes[d.key] ??= d.value
  },
  { immediate: true },
)
/** A candidate that was looked at closer. */
function setTo(to: Sizes): void {
  for (const d of props.dimensions) sizes[d.key] = to[d.key] ?? d.value
  emit('at', { ...to })
}
defineExpose({ setTo })
onMounted(() => emit('at', {}))
const move = (key: string, si: number) => {
  sizes[key] = si
  emit('at', { ...sizes })
}
const stops = computed(() => Object.fromEntries(props.dimensions.map(d => [d.key, madeSizes(d)])))
const indexOf = (d: SizingDimension) =>
  stops.value[d.key]!.reduce(
    (best, s, i, all) => (Math.abs(s - sizes[d.key]!) < Math.abs(all[best]! - sizes[d.key]!) ? i : best),
    0,
  )
const asSi = (d: SizingDimension, q: QuantityInput | null) => (q === null ? null : units.si(q, d.kind))
function typed(d: SizingDimension, q: QuantityInput | null): void {
  const si = asSi(d, q)
  if (si !== null && si > 0) move(d.key, si)
}
const isAsTested = computed(() => props.dimensions.every(d => Math.abs(sizes[d.key]! / d.value - 1) < 1e-9))
const kg = (si: number) => units.show(si, 'mass', { digits: 3 })
const massWords = (change: number, mass: number | null) =>
  `${change >= 0 ? '+' : '−'}${kg(Math.abs(change))}${mass === null ? '' : `, ${kg(mass)} in all`}`
</script>

<template>
  <section class="panel" data-sliders>
    <div class="mb-2 flex flex-wrap items-center justify-between gap-2">
      <h2>By hand: draw a size, and see every rail</h2>
      <p v-if="chosen" class="text-sm" data-chosen-mass>
        {{
          isAsTested
            ? 'As tested'
            : chosen.massChange === null
              ? 'Mass not known'
              : massWords(chosen.massChange, chosen.mass)
        }}<span v-if="chosen.binding" class="text-quiet">
          · nearest: {{ chosen.binding.name }}, margin {{ ((chosen.room ?? 0) * 100).toFixed(1) }} %</span
        >
      </p>
      <div class="flex gap-2">
        <button type="button" class="button text-sm" :disabled="isAsTested" @click="setTo({})">As tested</button
        ><button
          v-if="mayTake"
          type="button"
          class="button-main text-sm"
          :disabled="isAsTested || !chosen"
          @click="chosen && emit('take', chosen)"
        >
          Take these sizes
        </button>
      </div>
    </div>
    <div class="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-5">
      <ul class="space-y-2">
        <li v-for="d in dimensions" :key="d.key" class="grid grid-cols-[1fr_7rem] items-end gap-2">
          <label class="min-w-0"
            ><span class="label flex justify-between gap-1"
              ><span class="truncate">{{ d.label }}</span
              ><span class="shrink-0">tested {{ units.show(d.value, d.kind, { digits: 4 }) }}</span></span
            ><input
              type="range"
              class="w-full accent-[var(--accent)]"
              min="0"
              :max="stops[d.key]!.length - 1"
              :value="indexOf(d)"
              :aria-label="d.label"
              :aria-valuetext="units.show(sizes[d.key]!, d.kind, { digits: 4 })"
              @input="move(d.key, stops[d.key]![Number(($event.target as HTMLInputElement).value)]!)"
          /></label>
          <QuantityField
            :model-value="units.input(sizes[d.key]!, d.kind)"
            :kind="d.kind"
            :prefer="units.prefer.value"
            :label="`${d.label}, typed`"
            hide-label
            @update:model-value="typed(d, $event)"
          />
        </li>
      </ul>
      <div v-if="chosen">
        <CandidateRails :candidate="chosen" :limits="limits" />
        <p v-if="chosen.extrapolated.length > 0" class="mt-1 text-xs text-open">
          {{ chosen.extrapolated.join(', ') }}: beyond the sizes that the law was seen to hold for; the band is widened.
        </p>
      </div>
      <p v-else class="text-sm text-quiet">Edit a size, or look closer at a candidate.</p>
    </div>
  </section>
</template>
