<script setup lang="ts">
import type { LiveFigure } from '@hypomet/core'

/** What a run of its kind is read for, readable at three metres, with what was predicted of it. */
const props = defineProps<{
  figures: LiveFigure[]
  text: (f: LiveFigure, si?: number | null) => string
  /** s since the governing channel gave a number. */
  age: number
}>()
const { units } = useTest()
/** Half width of its 95 % band. */
const banded = ({ half, kind }: LiveFigure) => `± ${units.show(half, kind, { digits: 2, difference: true })}`
const STALE = 1
const isStale = computed(() => props.age >= STALE)
</script>

<template>
  <dl class="grid grid-cols-2 gap-x-6 gap-y-1 lg:grid-cols-4">
    <div v-for="f in figures" :key="f.key" class="min-w-0" :data-figure="f.key">
      <dt class="truncate text-sm text-quiet" :title="f.label">{{ f.label }}</dt>
      <dd
        :class="[
          'text-3xl font-bold whitespace-nowrap tabular-nums 2xl:text-5xl',
          isStale ? 'text-quiet opacity-50' : '',
        ]"
      >
        {{ text(f) }}
      </dd>
      <dd class="min-h-5 truncate text-sm">
        <span v-if="f.predicted !== null" class="text-predicted">predicted {{ text(f, f.predicted) }}</span>
        <span v-if="f.half !== null && f.value !== null" class="ml-1 text-quiet">{{ banded(f) }}</span>
        <span v-if="f.note" class="text-quiet" :title="f.note"
          >{{ f.predicted === null ? '' : ' · ' }}{{ f.note }}</span
        >
      </dd>
    </div>
    <p v-if="isStale" class="col-span-full text-sm font-semibold text-fail" data-age>
      {{ age.toFixed(age < 10 ? 1 : 0) }} s old
    </p>
  </dl>
</template>
