<script setup lang="ts">
import { outlineOf, type Figure, type PredictedCurve, type UnitPreference } from '@hypomet/core'
import type { RegisterRow } from '~/composables/register/useRegister'

/** A predicted curve, drawn; while it is open another one may be pasted over it. */
const props = defineProps<{ row: RegisterRow; campaignId: number; prefer: UnitPreference }>()
const { context, change } = await useRegister('prediction', props.campaignId, () => props.prefer)
const family = computed(() => context.value.refs['revision']?.find(r => r.id === props.row['revisionId'])?.family ?? '')
const outline = computed(() => outlineOf(family.value)?.curves[String(props.row['quantity'])] ?? null)
const figure = computed<Figure | null>(() => {
  const curve = props.row['curve'] as PredictedCurve | null
  return curve && outline.value
    ? {
        x: outline.value.x,
        y: outline.value.y,
        series: [{ name: String(props.row['source']), style: 'predicted', ...curve }],
        lines: [],
      }
    : null
})
const problem = shallowRef<Awaited<ReturnType<typeof change>>>(null)
async function take(curve: PredictedCurve): Promise<void> {
  problem.value = await change(props.row, { curve })
}
</script>

<template>
  <div v-if="outline" class="space-y-2">
    <FigureChart v-if="figure" :figure="figure" :prefer="prefer" name="prediction" height="220px" />
    <CurvePaste v-if="!row.fixed" :outline="outline" :prefer="prefer" @curve="take" />
    <ProblemNote :problem="problem" />
  </div>
</template>
