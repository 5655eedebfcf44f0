<script setup lang="ts">
import {
  inUnit,
  readableUnit,
  trialsOfHistory,
  type HistoryRevision,
  type Kind,
  type UnitPreference,
} from '@hypomet/core'
import type { PropertyRow } from '~/composables/article/useFactors'

/**
 * An article's revisions as trials of a few factors at two levels: effects, what cannot be told apart, and what to try
 * next.
 */
const props = defineProps<{
  revisions: HistoryRevision[]
  properties: PropertyRow[]
  kind: Kind
  label: string
  prefer: UnitPreference
}>()
const unit = computed(() =>
  readableUnit(
    props.revisions.reduce((m, r) => Math.max(m, Math.abs(r.result?.value ?? 0)), 0),
    props.kind,
    { prefer: props.prefer },
  ),
)
const written = (factor: string, value: number | string) =>
  props.properties.find(p => p.title === factor)?.cells.find(c => c.value === value)?.text ?? String(value)
const trials = computed(() =>
  trialsOfHistory(props.revisions, written, si => Number(inUnit(si, props.kind, unit.value).toPrecision(6))),
)
const carried = computed(() =>
  trials.value
    ? {
        calc: 'trial-matrix',
        title: 'Trials',
        settings: {
          factors: trials.value.factors,
          trials: trials.value.trials,
          next: Math.min(8, Math.max(4, trials.value.trials.length)),
        },
      }
    : null,
)
</script>

<template>
  <section v-if="carried && trials" class="panel" aria-label="Trial matrix">
    <h2 class="mb-1">Trial matrix: {{ label.toLowerCase() }}{{ unit === '1' ? '' : `, ${unit}` }}</h2>
    <p v-if="trials.without.length > 0" class="mb-1 text-sm text-open">
      Without an exact result, and so not counted: {{ trials.without.join(', ') }}.
    </p>
    <ClientOnly><FollowUps :key="label" :carried="carried" :results="{}" :prefer="prefer" /></ClientOnly>
  </section>
</template>
