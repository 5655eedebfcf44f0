<script setup lang="ts">
import type { Candidate } from '@hypomet/core'
import type { LimitRow } from '~/types/api'

/** The rails of every limit as they would become, each with what is predicted; what no law speaks of says so. */
const props = defineProps<{ candidate: Candidate; limits: readonly LimitRow[]; columns?: number }>()
const { units, resultKind } = useTest()
const rows = computed(() =>
  props.limits.map(limit => {
    const p = props.candidate.predictions[limit.quantity] ?? null
    return {
      limit,
      p,
      kind: resultKind(limit.quantity),
      verdict: props.candidate.decisions.find(d => d.limitId === limit.id)?.decision.verdict ?? ('undecided' as const),
    }
  }),
)
</script>

<template>
  <div class="grid gap-x-4 gap-y-1" :style="{ gridTemplateColumns: `repeat(${columns ?? 2}, minmax(0, 1fr))` }">
    <div v-for="r in rows" :key="r.limit.id" class="min-w-0" :data-rail="r.limit.name">
      <p class="flex justify-between gap-2 text-xs">
        <span class="truncate">{{ r.limit.name }}</span><span v-if="r.p" class="shrink-0 text-predicted"
          >⋯ {{ units.result(r.p, r.kind) }}</span
        ><span v-else class="shrink-0 text-quiet">no scaling law covers it</span>
      </p>
      <LimitRail
        v-if="r.p"
        :origin="railOrigin(r.kind)"
        :label="`${candidate.title}: ${r.limit.name}`"
        :limit="r.limit.value"
        :comparator="r.limit.comparator"
        :result="r.p"
        :verdict="r.verdict"
        :show="v => units.show(v, r.kind)"
      />
    </div>
  </div>
</template>
