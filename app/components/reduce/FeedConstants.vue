<script setup lang="ts">
import type { AnyFamily, MethodOutput } from '@hypomet/core'

/** Measured values that may take the place of a constant: where each goes, and what then moves, is decided there. */
const props = defineProps<{
  family: AnyFamily
  output: MethodOutput
  slug: string
  system: 'metric' | 'imperial'
  source: string
}>()
const units = useUnits(() => props.system)
const offered = computed(() =>
  (props.family.constants?.(props.output) ?? []).map(m => ({
    label: m.label,
    to: asConstant(props.slug, units, { ...m, source: `${props.source}: ${m.label.toLowerCase()} of ${m.n}` }),
  })),
)
</script>

<template>
  <p v-if="offered.length > 0" class="mt-2 text-xs text-quiet" data-feeds>
    Into a constant’s place:
    <template v-for="(o, i) in offered" :key="o.label"
      >{{ i > 0 ? ', ' : '' }}<NuxtLink :to="o.to">{{ o.label }}</NuxtLink></template
    >.
  </p>
</template>
